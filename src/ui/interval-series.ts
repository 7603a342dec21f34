import type { CustomSeriesRenderItem } from 'echarts';
import type { Paper } from './PaperChart';

/** One row of a chart: where it stands, and between what limits. */
export interface IntervalRow {
  value: number | null;
  interval: readonly [number, number] | null;
  colour: string;
  symbol: string;
  /** Filled, or an outline only. */
  filled: boolean;
}

/** Intervals with their middles, row by row, and a dotted line where nothing would differ. */
export function intervalSeries(
  rows: readonly IntervalRow[],
  { paper, level, axes = {} }: { paper: Paper; level: number | null; axes?: object },
) {
  const bar: CustomSeriesRenderItem = (params, api) => {
    const { interval, colour } = rows[params.dataIndex]!;
    if (!interval) return { type: 'group', children: [] };
    const [x1, y] = api.coord([interval[0], params.dataIndex]) as [number, number];
    const [x2] = api.coord([interval[1], params.dataIndex]) as [number, number];
    return {
      type: 'line',
      shape: { x1, y1: y, x2, y2: y },
      style: { stroke: colour, lineWidth: 2.5 },
    };
  };
  return [
    { ...axes, type: 'custom', renderItem: bar, data: rows.map((_, i) => [0, i]), z: 2 },
    {
      ...axes,
      type: 'scatter',
      symbolSize: 12,
      z: 3,
      data: rows.map(({ value, colour, symbol, filled }, i) => ({
        value: [value, i],
        symbol,
        itemStyle: {
          color: filled ? colour : paper.sheet,
          borderColor: colour,
          borderWidth: 2,
          opacity: 1,
        },
      })),
      markLine: {
        silent: true,
        symbol: 'none',
        label: { show: false },
        lineStyle: { color: paper.soft, type: 'dotted', width: 1.5 },
        data: level === null ? [] : [{ xAxis: level }],
      },
    },
  ];
}
