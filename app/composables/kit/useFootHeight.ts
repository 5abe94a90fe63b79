/** Tells the page how much of its foot something covers, so that what has the focus is scrolled clear of it. */
export function useFootHeight(name: '--review-bar' | '--drawer', height: () => number) {
  const { style } = document.documentElement
  watchEffect(() => style.setProperty(name, `${height()}px`))
  onBeforeUnmount(() => style.removeProperty(name))
}
