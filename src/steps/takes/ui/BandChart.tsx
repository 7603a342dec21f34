'use client';

import { useCallback } from 'react';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';

export interface BandLine {
  name: string;
  /** By third, 25 Hz to 20 kHz. */
  values: readonly (number | null)[];
}

const HEIGHT_PX = 300;
/** Told apart without colour: no chain has one before the reveal. */
const DASHES = ['solid', 'dashed', 'dotted', [8, 3, 2, 3], [2, 6], [12, 4]] as const;
const MARKS = ['circle', 'rect', 'triangle', 'diamond', 'emptyCircle', 'emptyRect'] as const;

const hz = (value: number) => (value >= 1000 ? `${value / 1000}k` : String(value));

/** One line for each chain over thirds of an octave. */
export default function BandChart({
  lines,
  unit,
  label,
}: {
  lines: BandLine[];
  unit: string;
  label: string;
}) {
  const option = useCallback(
    ({ paper }: ChartPaper) => ({
      grid: { left: 58, right: 16, top: 12 + 22 * Math.ceil(lines.length / 3), bottom: 44 },
      legend: { top: 0, left: 50, textStyle: { color: paper.ink }, itemWidth: 34 },
      xAxis: {
        ...axisStyle(paper),
        type: 'category',
        data: THIRD_OCTAVES.map(({ centerHz }) => hz(centerHz)),
        axisTick: { show: false },
        axisLabel: { ...axisStyle(paper).axisLabel, interval: 2 },
        axisLine: { onZero: false, lineStyle: { color: paper.rule } },
        name: 'Hz',
        nameGap: 26,
      },
      yAxis: { ...axisStyle(paper), type: 'value', name: unit, nameGap: 40, scale: true },
      tooltip: { trigger: 'axis', valueFormatter: (db: number) => `${db?.toFixed(1)} ${unit}` },
      series: lines.map(({ name, values }, i) => ({
        name,
        type: 'line',
        data: values,
        symbol: MARKS[i % MARKS.length],
        symbolSize: 5,
        itemStyle: { color: i % 2 === 0 ? paper.pen : paper.ochre },
        lineStyle: {
          width: 1.5,
          color: i % 2 === 0 ? paper.pen : paper.ochre,
          type: DASHES[i % DASHES.length],
        },
      })),
    }),
    [lines, unit],
  );
  return (
    <PaperChart
      option={option}
      height={HEIGHT_PX}
      label={`${label}: ${lines.map(({ name }) => name).join(', ')}`}
    />
  );
}
