import { type EChartsType, init } from 'echarts/core'
import { type RefObject, useEffect, useRef } from 'react'
import { useTheme } from '../theme/theme.ts'

/** Colours and type of the theme that is shown, in the chart package's words. */
export function chartInk() {
  const css = getComputedStyle(document.documentElement)
  const colour = (name: string) => css.getPropertyValue(`--${name}`).trim()
  return {
    colour,
    font: css.getPropertyValue('--font-text') || 'sans-serif',
    axis: {
      axisLine: { lineStyle: { color: colour('hair') } },
      axisLabel: { color: colour('soft') },
      nameTextStyle: { color: colour('soft') },
      splitLine: { show: false },
    },
    tooltip: {
      backgroundColor: colour('paper'),
      borderColor: colour('hair'),
      textStyle: { color: colour('ink') },
    },
  }
}

/**
 * A chart in a box that it follows in size; drawn anew when one of `of` changes, or the theme.
 * @param optionOf what to draw, in the package's words
 * @param onPick told the `id` of what is pressed
 */
export function useChart(
  optionOf: () => Record<string, unknown>,
  of: readonly unknown[],
  onPick?: (id: string) => void,
): RefObject<HTMLDivElement | null> {
  const host = useRef<HTMLDivElement>(null)
  const chart = useRef<EChartsType>(undefined)
  const pick = useRef(onPick)
  pick.current = onPick
  const theme = useTheme()
  useEffect(() => {
    if (!host.current) return
    const made = init(host.current, undefined, { renderer: 'svg' })
    chart.current = made
    made.on('click', (event) => pick.current?.(String((event.data as { id?: string } | undefined)?.id ?? '')))
    const observer = new ResizeObserver(() => made.resize())
    observer.observe(host.current)
    return () => {
      observer.disconnect()
      made.dispose()
    }
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it is drawn of is the caller's list; a new theme means new colours
  useEffect(() => {
    // Drawn at the next frame: the figures beside it come first.
    chart.current?.setOption(optionOf(), { notMerge: true, lazyUpdate: true })
  }, [...of, theme])
  return host
}
