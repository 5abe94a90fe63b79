/** What every chart over courses has alike: no movement, courses along the bottom, whole numbers up the side, in the theme's colours. */
export function courseChart(courses: readonly string[], color: (name: 'second-ink' | 'line-soft') => string) {
  return {
    animation: false,
    grid: { left: 40, right: 8, top: 28, bottom: 44 },
    legend: { top: 0, left: 0, itemHeight: 10, textStyle: { color: color('second-ink') } },
    tooltip: { trigger: 'axis' as const },
    textStyle: { fontFamily: 'inherit' },
    xAxis: { type: 'category' as const, data: [...courses], axisLabel: { color: color('second-ink'), rotate: 40, interval: 0 } },
    yAxis: { type: 'value' as const, minInterval: 1, splitNumber: 3, axisLabel: { color: color('second-ink') },
      splitLine: { lineStyle: { color: color('line-soft') } } },
  }
}
