/** Tells the page how much of its foot or head something covers, so that what has the focus is scrolled clear of it. */
export function useEdgeHeight(name: '--review-bar' | '--drawer' | '--head-bar', height: () => number) {
  const { style } = document.documentElement
  watchEffect(() => style.setProperty(name, `${height()}px`))
  onBeforeUnmount(() => style.removeProperty(name))
}
