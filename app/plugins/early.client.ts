import { readCatalog, readSession } from '#shared/contract/views/college'

/**
 * Before the router and its pages: who is signed in and what the college teaches are asked for while the code of the page is on its way.
 */
export default defineNuxtPlugin({ order: -60, setup() {
  askEarly(readSession.path)
  if (window.location.pathname !== '/sign-in') askEarly(readCatalog.path)
} })
