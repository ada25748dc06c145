<script setup lang="ts">
import { StorageSerializers, usePreferredDark, useStorage } from '@vueuse/core'
import { mdiWeatherNight, mdiWhiteBalanceSunny } from '@mdi/js'
import { computed, watchEffect } from 'vue'
import Intake from './shelf/Intake.vue'
import { useRoute } from 'vue-router'
import { useTheme } from 'vuetify'

const theme = useTheme()
const route = useRoute()
const chosen = useStorage<'light' | 'dark' | null>('nokta.theme', null, undefined, {
  serializer: StorageSerializers.string,
  writeDefaults: false,
})
const prefersDark = usePreferredDark()
/** As the system has it, until somebody chooses here. */
const look = computed(() => chosen.value ?? (prefersDark.value ? 'dark' : 'light'))
watchEffect(() => theme.change(look.value))
</script>

<template>
  <v-app>
    <a class="skip" href="#content">To the content</a>
    <header class="top no-print">
      <router-link to="/" class="mark" aria-label="Nokta: to the shelf"
        ><span class="dot" aria-hidden="true" />Nokta</router-link
      >
      <div id="bench-title" class="slot" />
      <nav v-if="route.name !== 'bench'" class="places" aria-label="Outside the bench">
        <router-link to="/" data-test="go-shelf">Shelf</router-link>
        <router-link to="/booklets" data-test="go-booklets">Booklets</router-link>
        <router-link to="/learners" data-test="go-learners">Learners</router-link>
        <router-link to="/instruments" data-test="go-instruments">Instruments</router-link>
      </nav>
      <v-btn
        :icon="look === 'light' ? mdiWeatherNight : mdiWhiteBalanceSunny"
        size="small"
        :aria-label="look === 'light' ? 'Dark colours' : 'Light colours'"
        :title="look === 'light' ? 'Dark colours' : 'Light colours'"
        @click="chosen = look === 'light' ? 'dark' : 'light'"
      />
    </header>
    <v-main id="content" tabindex="-1">
      <router-view />
    </v-main>
    <Intake />
  </v-app>
</template>

<style scoped>
.skip {
  position: fixed;
  left: 8px;
  top: -60px;
  z-index: 40;
  padding: 8px 14px;
  border-radius: 4px;
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
}
.skip:focus {
  top: 8px;
}
#content {
  outline: none;
}
.top {
  display: flex;
  align-items: center;
  gap: 20px;
  height: 46px;
  padding: 0 12px 0 18px;
  border-bottom: 1px solid var(--rule);
  background: rgb(var(--v-theme-background));
  position: sticky;
  top: 0;
  z-index: 20;
}
.mark {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  font-weight: 700;
  font-size: 18px;
  color: inherit;
  text-decoration: none;
}
.dot {
  width: 13px;
  height: 13px;
  border-radius: 50%;
  background: rgb(var(--v-theme-primary));
}
.places {
  display: flex;
  gap: 18px;
}
.places a {
  color: inherit;
  text-decoration: none;
  padding: 4px 0;
}
.places a.router-link-exact-active {
  font-weight: 700;
  box-shadow: 0 2px 0 rgb(var(--v-theme-primary));
}
.slot {
  flex: 1;
  min-width: 0;
}
</style>
