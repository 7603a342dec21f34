'use client';

import { useCallback } from 'react';
import type { Effect } from '@/core/statistics/reading/links';
import PaperChart, { axisStyle, type ChartPaper, nameAxis } from '@/ui/PaperChart';
import { intervalSeries } from '@/ui/interval-series';
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
        series: intervalSeries(
          effects.map(({ effect, ci95, factor }) => ({
            value: effect,
            interval: ci95,
            colour: paper.pen,
            symbol: factor === 'microphone' ? 'circle' : 'rect',
            filled: true,
          })),
          { paper, level: 0 },
        ),
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
