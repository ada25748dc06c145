import { createRouter, createWebHistory } from 'vue-router'
import { pageTitle, STATIONS } from './address/stations'

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

router.afterEach(to => {
  if (to.name !== 'bench') document.title = pageTitle(typeof to.meta.title === 'string' ? to.meta.title : '')
})
