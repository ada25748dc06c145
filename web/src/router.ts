import { createRouter, createWebHistory } from 'vue-router'

/** The stations that work, in the order of the work. */
export const STATIONS = ['tune', 'form', 'hand', 'bow', 'levels', 'sheet'] as const
export type Station = (typeof STATIONS)[number]

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'shelf', component: () => import('./shelf/ShelfView.vue') },
    {
      path: '/instruments',
      name: 'instruments',
      component: () => import('./instruments/InstrumentsView.vue'),
    },
    { path: '/learners', name: 'learners', component: () => import('./learners/LearnersView.vue') },
    { path: '/booklets', name: 'booklets', component: () => import('./booklets/BookletsView.vue') },
    {
      path: '/booklets/:id',
      name: 'booklet',
      component: () => import('./booklets/BookletView.vue'),
      props: true,
    },
    { path: '/about', name: 'about', component: () => import('./about/AboutView.vue') },
    { path: '/tunes/:id', redirect: to => `${to.path.replace(/\/$/, '')}/tune` },
    {
      path: `/tunes/:id/:station(${STATIONS.join('|')})`,
      name: 'bench',
      component: () => import('./bench/BenchView.vue'),
      props: true,
    },
    { path: '/:rest(.*)*', name: 'lost', component: () => import('./shelf/LostView.vue') },
  ],
})
