'use client';

import type { CustomSeriesRenderItem } from 'echarts';
import { useCallback } from 'react';
import type { Effect } from '@/core/statistics/reading/links';
import PaperChart, { axisStyle, type ChartPaper, nameAxis } from '@/ui/PaperChart';
import { signed } from './sections/cells';

const ROW_PX = 34;
const FOOT_PX = 46;
const HEAD_PX = 8;

/** What each microphone and each preamp adds, with its interval, on one axis. */
export default function EffectsChart({
  effects,
  unit,
}: {
  effects: readonly Effect[];
  unit: 'log odds' | 'points';
}) {
  const option = useCallback(
    ({ paper, narrow }: ChartPaper) => {
      const names = nameAxis(
        { paper, narrow },
        effects.map(({ level }) => level),
      );
      const style = axisStyle(paper);
      const reach = Math.max(...effects.flatMap(({ ci95 }) => ci95.map(Math.abs)), 0.1);
      const bar: CustomSeriesRenderItem = (params, api) => {
        const { ci95 } = effects[params.dataIndex]!;
        const [x1, y] = api.coord([ci95[0], params.dataIndex]) as [number, number];
        const [x2] = api.coord([ci95[1], params.dataIndex]) as [number, number];
        return {
          type: 'line',
          shape: { x1, y1: y, x2, y2: y },
          style: { stroke: paper.pen, lineWidth: 2.5 },
        };
      };
      return {
        grid: { left: names.left, right: 24, top: HEAD_PX, bottom: FOOT_PX },
        xAxis: {
          ...style,
          type: 'value',
          min: -reach * 1.05,
          max: reach * 1.05,
          axisLabel: { ...style.axisLabel, showMinLabel: false, showMaxLabel: false },
          name: `${unit} against the middle of its kind, 95 %`,
          nameGap: 28,
          splitLine: { show: false },
        },
        yAxis: names.axis,
        series: [
          { type: 'custom', renderItem: bar, data: effects.map((_, i) => [0, i]), z: 2 },
          {
            type: 'scatter',
            symbolSize: 12,
            z: 3,
            data: effects.map(({ effect, factor }, i) => ({
              value: [effect, i],
              symbol: factor === 'microphone' ? 'circle' : 'rect',
              itemStyle: { color: paper.pen, opacity: 1 },
            })),
            markLine: {
              silent: true,
              symbol: 'none',
              label: { show: false },
              lineStyle: { color: paper.soft, type: 'dotted', width: 1.5 },
              data: [{ xAxis: 0 }],
            },
          },
        ],
      };
    },
    [effects, unit],
  );
  const said = effects.map(({ level, effect }) => `${level} ${signed(effect)} ${unit}`).join(', ');
  return (
    <PaperChart
      option={option}
      height={HEAD_PX + effects.length * ROW_PX + FOOT_PX}
      label={`What each microphone and preamp adds: ${said}`}
    />
  );
}
