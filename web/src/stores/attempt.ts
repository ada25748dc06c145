/** Work that may fail: what went wrong is said until the next piece of work. */
import { ref, type Ref } from 'vue'

export type Attempt = (work: () => Promise<unknown>) => Promise<void>

export function useAttempt(): { readonly problem: Ref<string>; readonly attempt: Attempt } {
  const problem = ref('')
  async function attempt(work: () => Promise<unknown>) {
    try {
      await work()
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
    }
  }
  return { problem, attempt }
}
