<script setup lang="ts">
/**
 * Where the tapes go: by size or measured length, in millimetres and inches, with the colours of the studio's
 * own tapes; as a strip to print.
 */
import { useStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { tapes } from '#core/instruments/tapes'
import { PAPERS, type Paper } from '#core/page/paper'
import { formatPitch, pitchOfMidi } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { saveFile } from '../files/saveFile'
import { useStudio } from '../stores/studio'

const props = defineProps<{ id: InstrumentId; length: number }>()
const size = defineModel<string>('size', { required: true })
const measured = defineModel<number | null>('measured', { required: true })
const studio = useStudio()
const sizes = computed(() =>
  INSTRUMENTS[props.id].sizes.map(s => ({ value: s.name, title: `${s.name} (${s.string} mm)` })),
)
const rows = computed(() =>
  tapes(props.id, props.length).map(t => ({
    ...t,
    inches: (t.fromNut / 25.4).toFixed(3),
    notes: INSTRUMENTS[props.id].strings.map(s =>
      formatPitch(pitchOfMidi(s + t.semitones, t.label.startsWith('‹'))),
    ),
  })),
)
const problem = ref('')
function measure(text: string) {
  const mm = Number(text)
  if (text.trim() === '') measured.value = null
  else if (mm >= 100 && mm <= 1500) measured.value = mm
  problem.value =
    text.trim() !== '' && !(mm >= 100 && mm <= 1500) ? 'A string length from 100 to 1500 mm' : ''
}
const colours = computed(() => studio.studio.tapes[props.id] ?? {})
function colour(semitones: number, value: string | null) {
  void studio.edit(({ tapes }) => {
    const { [String(semitones)]: _old, ...rest } = tapes[props.id] ?? {}
    const own = value === null ? rest : { ...rest, [String(semitones)]: value }
    return { tapes: { ...tapes, [props.id]: own } }
  })
}
const papers = Object.keys(PAPERS) as Paper[]
const paper = useStorage<Paper>('nokta.paper', 'A4')
const failed = ref('')
async function print() {
  try {
    const { tapeStripPdf } = await import('../paper/tapeStrip')
    const name = `${INSTRUMENTS[props.id].name} ${props.length} mm`
    saveFile(`tapes ${name}.pdf`, await tapeStripPdf(rows.value, props.length, name, paper.value))
    failed.value = ''
  } catch (e) {
    failed.value = `The strip could not be made: ${e instanceof Error ? e.message : String(e)}`
  }
}
</script>

<template>
  <section aria-label="Sizes and tapes" data-test="tapes">
    <h2>Size and tapes</h2>
    <div class="fields">
      <v-select v-model="size" :items="sizes" label="Size" data-test="tape-size" />
      <v-text-field
        :model-value="measured ?? ''"
        type="number"
        label="Measured string length, mm"
        :placeholder="String(sizeOf(id, size).string)"
        :error-messages="problem ? [problem] : []"
        data-test="measured"
        @update:model-value="measure"
      />
    </div>
    <table class="plain">
      <thead>
        <tr>
          <th>Tape</th>
          <th v-for="l in INSTRUMENTS[id].letters" :key="l">{{ l }}</th>
          <th class="number">mm from the nut</th>
          <th class="number">inches</th>
          <th>Colour</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.label" data-test="tape">
          <td>
            <b>{{ r.label }}</b>
          </td>
          <td v-for="(n, i) in r.notes" :key="i">{{ n }}</td>
          <td class="number">{{ r.fromNut.toFixed(1) }}</td>
          <td class="number">{{ r.inches }}</td>
          <td>
            <input
              type="color"
              :value="colours[String(r.semitones)] ?? '#888888'"
              :aria-label="`Colour of the tape for ${r.label}`"
              @change="colour(r.semitones, ($event.target as HTMLInputElement).value)"
            />
            <button
              v-if="colours[String(r.semitones)]"
              type="button"
              class="link"
              @click="colour(r.semitones, null)"
            >
              none
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="strip">
      <v-btn variant="outlined" data-test="print-strip" @click="print">Strip to print, true to scale</v-btn>
      <v-select v-model="paper" :items="papers" label="Paper" class="paper" data-test="strip-paper" />
    </div>
    <p v-if="failed" role="alert">{{ failed }}</p>
    <p class="quiet">
      Print at 100%, never “fit to page”, and check the ruler on the sheet. String lengths of makers differ:
      measure from the nut to the top of the bridge.
    </p>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  margin: 12px 0;
}
.plain {
  margin-bottom: 14px;
}
input[type='color'] {
  width: 34px;
  height: 22px;
  padding: 0;
  border: 1px solid var(--rule);
  background: none;
  vertical-align: middle;
}
.quiet {
  font-size: 13.5px;
  margin-top: 8px;
}
.strip {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 12px;
}
.paper {
  max-width: 120px;
}
</style>
