/** Where menus and dialogs are put: a place of its own in the page for who moves by landmarks, there before the first one opens. */
export default defineNuxtPlugin(() => {
  const place = document.createElement('div')
  place.className = 'v-overlay-container'
  place.setAttribute('role', 'region')
  place.setAttribute('aria-label', 'Menus and dialogs')
  document.body.append(place)
})
