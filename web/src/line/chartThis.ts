import type { ChartAsked } from '@/api/types'
import { useProgram } from './program'

/** The way to a chart of something that is in view: of a list, a lane, an iteration. */
export function useChartThis() {
  const store = useProgram()
  return (chart: ChartAsked) => ({
    name: 'report',
    params: { id: store.id },
    query: { chart: JSON.stringify(chart) },
  })
}
