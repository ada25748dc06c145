<script setup lang="ts">
/**
 * The skills of an instrument, level by level: known, being learned, not yet. What nobody says follows from
 * the level.
 */
import { computed } from 'vue'
import { SKILLS } from '#core/grading/catalogue'
import { stateOf } from '#core/grading/fit'
import { DOMAINS } from '#core/grading/skill'
import { SKILL_STATES, type Learner, type SkillState } from '#core/instruments/learner'

const props = defineProps<{ learner: Learner }>()
const emit = defineEmits<{ set: [skill: string, state: SkillState | null] }>()
const WORDS: Readonly<Record<SkillState, string>> = {
  known: 'known',
  learning: 'learning',
  notYet: 'not yet',
}
const domains = computed(() =>
  DOMAINS.map(domain => ({
    domain,
    skills: SKILLS.filter(s => s.domain === domain && s.levels[props.learner.instrument] !== undefined)
      .map(s => ({
        skill: s,
        level: s.levels[props.learner.instrument]!,
        state: stateOf(props.learner, s.id),
        own: props.learner.skills[s.id] !== undefined,
      }))
      .sort((a, b) => a.level - b.level),
  })),
)
/** The next state; the one the level gives needs no word of its own. */
function turn(skill: string, level: number, now: SkillState) {
  const next = SKILL_STATES[(SKILL_STATES.indexOf(now) + 1) % SKILL_STATES.length]!
  const given = level <= props.learner.level ? 'known' : 'notYet'
  emit('set', skill, next === given ? null : next)
}
</script>

<template>
  <div class="domains">
    <section v-for="d in domains" :key="d.domain">
      <h2>{{ d.domain }}</h2>
      <button
        v-for="s in d.skills"
        :key="s.skill.id"
        type="button"
        class="skill"
        :class="s.state"
        :title="s.skill.says"
        :aria-label="`${s.skill.title}: ${WORDS[s.state]}`"
        :data-test="`skill-${s.skill.id}`"
        @click="turn(s.skill.id, s.level, s.state)"
      >
        <span class="sign" aria-hidden="true" />
        <span>{{ s.skill.title }}</span>
        <small>{{ s.own ? WORDS[s.state] : `level ${s.level}` }}</small>
      </button>
    </section>
  </div>
</template>

<style scoped>
.domains {
  columns: 3;
  column-gap: 28px;
  margin-top: 10px;
}
section {
  break-inside: avoid-column;
  margin-bottom: 14px;
}
h2 {
  font-size: 15px;
  margin-bottom: 2px;
}
h2::first-letter {
  text-transform: uppercase;
}
.skill {
  display: grid;
  grid-template-columns: 16px 1fr auto;
  gap: 6px;
  align-items: baseline;
  width: 100%;
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13.5px;
  text-align: left;
  cursor: pointer;
}
.skill small {
  color: var(--faint);
}
.sign {
  width: 12px;
  height: 12px;
  border: 1.5px solid rgb(var(--v-theme-primary));
  border-radius: 50%;
}
.known .sign {
  background: rgb(var(--v-theme-primary));
}
.learning .sign {
  background: linear-gradient(0deg, rgb(var(--v-theme-primary)) 50%, transparent 50%);
}
.notYet {
  color: var(--faint);
}
.notYet .sign {
  border-color: var(--faint);
}
</style>
