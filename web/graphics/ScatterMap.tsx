import { ScatterChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { LabelLayout } from 'echarts/features'
import { SVGRenderer } from 'echarts/renderers'
import { chartInk, useChart } from './useChart.ts'

use([ScatterChart, GridComponent, TooltipComponent, LabelLayout, SVGRenderer])

export interface ScatterPoint {
  id: string
  name: string
  x: number
  y: number
  /** What the size of the mark is, in its own unit. */
  size: number
  shape: 'circle' | 'rect' | 'triangle'
}

interface ScatterMapProps {
  /** What it shows, for those who do not see it. */
  label: string
  xLabel: string
  yLabel: string
  sizeLabel: string
  points: readonly ScatterPoint[]
  /** The marks that are filled. */
  picked: readonly string[]
  onPick: (id: string) => void
}

const SMALLEST = 8
const LARGEST = 26

/** Things on two axes, each with its name, its size a third figure. A tap picks one. */
export default function ScatterMap({ label, xLabel, yLabel, sizeLabel, points, picked, onPick }: ScatterMapProps) {
  const draw = () => {
    const { colour, font, axis: plain, tooltip } = chartInk()
    const sizes = points.map((p) => p.size)
    const low = Math.min(...sizes)
    const span = Math.max(...sizes) - low || 1
    const axis = (name: string) => ({
      ...plain,
      type: 'value',
      name,
      nameLocation: 'middle',
      scale: true,
      axisLine: { show: true, ...plain.axisLine },
      splitLine: { show: true, lineStyle: { color: colour('shoal') } },
    })
    return {
      animation: false,
      textStyle: { fontFamily: font },
      grid: { left: 54, right: 120, top: 16, bottom: 40 },
      tooltip: {
        ...tooltip,
        formatter: (p: { data: { name: string; value: number[] } }) =>
          `${p.data.name}<br>${xLabel} ${p.data.value[0]?.toFixed(1)}<br>${yLabel} ${p.data.value[1]?.toFixed(2)}<br>${sizeLabel} ${p.data.value[2]?.toFixed(1)}`,
      },
      xAxis: { ...axis(xLabel), nameGap: 26 },
      yAxis: { ...axis(yLabel), nameGap: 38 },
      series: [
        {
          type: 'scatter',
          cursor: 'pointer',
          labelLayout: { hideOverlap: true, moveOverlap: 'shiftY' },
          label: { show: true, position: 'right', color: colour('ink'), formatter: '{b}', fontSize: 12 },
          data: points.map((p) => ({
            id: p.id,
            name: p.name,
            value: [p.x, p.y, p.size],
            symbol: p.shape,
            symbolSize: SMALLEST + ((LARGEST - SMALLEST) * (p.size - low)) / span,
            itemStyle: {
              color: picked.includes(p.id) ? colour('ink') : colour('buff'),
              borderColor: colour('ink'),
              borderWidth: 1.2,
            },
            label: { fontWeight: picked.includes(p.id) ? 'bold' : 'normal' },
          })),
        },
      ],
    }
  }
  const host = useChart(draw, [points, picked, xLabel, yLabel, sizeLabel], onPick)
  return (
    <figure>
      <div ref={host} role="img" aria-label={label} className="h-[440px] w-full max-sm:h-[340px]" />
      <figcaption className="caption">
        the larger the mark, the more {sizeLabel}; circle: drink, square: blend, triangle: bottle
      </figcaption>
    </figure>
  )
}
