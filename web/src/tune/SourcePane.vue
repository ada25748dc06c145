<script setup lang="ts">
/**
 * Typed text: ABC, or strings and fingers. The editor is a standard one; problems stand in the text where
 * they are.
 */
import { autocompletion } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { EditorState, Annotation } from '@codemirror/state'
import { EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { sentence } from '#core/words/findings'
import type { Finding } from '#core/findings/finding'
import { abcCompletions } from './abcCompletions'

const props = defineProps<{ text: string; findings: readonly Finding[]; kind: 'abc' | 'spoken' }>()
const LABEL = { abc: 'Source of the tune in ABC', spoken: 'The tune in strings and fingers' }
const emit = defineEmits<{ typed: [text: string]; cursor: [offset: number] }>()

const host = ref<HTMLElement | null>(null)
let view: EditorView | null = null
/** Marks a change that came from outside (undo on the bench), not from typing. */
const fromOutside = Annotation.define<boolean>()

onMounted(() => {
  const listener = EditorView.updateListener.of(update => {
    if (update.docChanged && !update.transactions.some(t => t.annotation(fromOutside)))
      emit('typed', update.state.doc.toString())
    else if (update.selectionSet && view?.hasFocus) emit('cursor', update.state.selection.main.head)
  })
  view = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: props.text,
      extensions: [
        lineNumbers(),
        lintGutter(),
        highlightActiveLine(),
        history(),
        keymap.of([...defaultKeymap, ...historyKeymap]),
        listener,
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({
          'aria-label': LABEL[props.kind],
          'data-test': props.kind === 'abc' ? 'source' : 'spoken',
          tabindex: '0',
        }),
        ...(props.kind === 'abc'
          ? [autocompletion({ override: [abcCompletions], activateOnTyping: true, icons: false })]
          : []),
      ],
    }),
  })
  mark()
})
onBeforeUnmount(() => view?.destroy())

watch(
  () => props.text,
  text => {
    if (!view || view.state.doc.toString() === text) return
    view.dispatch({
      changes: { from: 0, to: view.state.doc.length, insert: text },
      annotations: fromOutside.of(true),
    })
  },
)
// After the score: its notes are what one waits for.
watch(() => props.findings, mark, { flush: 'post' })
let marked = '[]'

function mark() {
  if (!view) return
  const { doc } = view.state
  const found: Diagnostic[] = props.findings.flatMap(f => {
    const { line, column } = f.where
    if (line === undefined || line > doc.lines) return []
    const l = doc.line(line)
    const from = Math.min(l.to, l.from + (column ?? 1) - 1)
    return [
      {
        from,
        to: Math.min(l.to, from + 1),
        severity: f.severity === 'note' ? 'info' : f.severity,
        message: sentence(f),
      },
    ]
  })
  const now = JSON.stringify(found)
  if (now === marked) return
  marked = now
  view.dispatch(setDiagnostics(view.state, found))
}

/** Puts the cursor at a place. */
function goTo(line: number, column: number) {
  if (!view || line > view.state.doc.lines) return
  const l = view.state.doc.line(line)
  view.dispatch({ selection: { anchor: Math.min(l.to, l.from + column - 1) }, scrollIntoView: true })
  view.focus()
}
defineExpose({ goTo })
</script>

<template>
  <div ref="host" class="source" />
</template>

<style scoped>
.source {
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  overflow: hidden;
}
.source :deep(.cm-editor) {
  font-size: 14px;
  max-height: 46vh;
  color: inherit;
}
.source :deep(.cm-scroller) {
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
  line-height: 1.5;
}
.source :deep(.cm-gutters) {
  background: transparent;
  color: var(--faint);
  border: 0;
}
.source :deep(.cm-activeLine) {
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 8%, transparent);
}
.source :deep(.cm-cursor) {
  border-left-color: currentColor;
}
</style>
