'use client';

import type { CustomSeriesRenderItem } from 'echarts';
import { useCallback } from 'react';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';
import type { EarsView } from '../schema';
import { PROGRESS_PX } from './progress-height';

/** Thresholds of one skill over time, each with what is 95 % sure; lower is better. */
export default function ProgressChart({
  title,
  points,
}: {
  title: string;
  points: EarsView['progress'];
}) {
  const option = useCallback(
    ({ paper, lit }: ChartPaper) => {
      const style = axisStyle(paper);
      const timeOf = ({ at }: (typeof points)[number]) => new Date(at).getTime();
      const bar: CustomSeriesRenderItem = ({ dataIndex }, api) => {
        const point = points[dataIndex]!;
        const [x, y1] = api.coord([timeOf(point), point.from]) as [number, number];
        const [, y2] = api.coord([timeOf(point), point.to]) as [number, number];
        return {
          type: 'line',
          shape: { x1: x, y1, x2: x, y2 },
          style: { stroke: lit(paper.pen), lineWidth: 2 },
        };
      };
      const data = points.map((point) => [timeOf(point), point.amount]);
      return {
        grid: { left: 62, right: 24, top: 16, bottom: 44 },
        xAxis: { ...style, type: 'time', splitLine: { show: false } },
        yAxis: {
          ...style,
          type: points[0]?.scale === 'ratio' ? 'log' : 'value',
          scale: true,
          name: `heard at, ${points[0]?.unit ?? ''}`,
          nameGap: 44,
        },
        series: [
          { type: 'custom', renderItem: bar, data, z: 2 },
          {
            type: 'line',
            data: [...data].reverse(),
            symbol: 'circle',
            symbolSize: 9,
            lineStyle: { width: 1, color: paper.rule },
            itemStyle: { color: lit(paper.pen) },
            z: 3,
          },
        ],
      };
    },
    [points],
  );
  return (
    <PaperChart
      option={option}
      height={PROGRESS_PX}
      label={`${title}: ${points.map(({ at, amount, unit }) => `${at.slice(0, 10)} ${amount.toFixed(2)} ${unit}`).join(', ')}`}
    />
  );
}
