import { createRouter, createWebHistory } from 'vue-router'

/** The stations that work, in the order of the work. */
export const STATIONS = ['tune', 'form', 'hand', 'bow', 'levels', 'sheet'] as const
export type Station = (typeof STATIONS)[number]

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'shelf', meta: { title: 'Shelf' }, component: () => import('./shelf/ShelfView.vue') },
    {
      path: '/instruments',
      name: 'instruments',
      meta: { title: 'Instruments' },
      component: () => import('./instruments/InstrumentsView.vue'),
    },
    {
      path: '/learners',
      name: 'learners',
      meta: { title: 'Learners' },
      component: () => import('./learners/LearnersView.vue'),
    },
    {
      path: '/booklets',
      name: 'booklets',
      meta: { title: 'Booklets' },
      component: () => import('./booklets/BookletsView.vue'),
    },
    {
      path: '/booklets/:id',
      name: 'booklet',
      meta: { title: 'Booklet' },
      component: () => import('./booklets/BookletView.vue'),
      props: true,
    },
    {
      path: '/about',
      name: 'about',
      meta: { title: 'About' },
      component: () => import('./about/AboutView.vue'),
    },
    { path: '/tunes/:id', redirect: to => `${to.path.replace(/\/$/, '')}/tune` },
    {
      path: `/tunes/:id/:station(${STATIONS.join('|')})`,
      name: 'bench',
      component: () => import('./bench/BenchView.vue'),
      props: true,
    },
    {
      path: '/:rest(.*)*',
      name: 'lost',
      meta: { title: 'Not found' },
      component: () => import('./shelf/LostView.vue'),
    },
  ],
})

/** "Shelf · Nokta"; the bench names its tune and station itself. */
export const pageTitle = (...names: readonly string[]): string =>
  [...names, 'Nokta'].filter(n => n !== '').join(' · ')

router.afterEach(to => {
  if (to.name !== 'bench') document.title = pageTitle(typeof to.meta.title === 'string' ? to.meta.title : '')
})
