'use client';

import { format } from 'echarts/core';
import { useCallback } from 'react';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';
import { signed } from '@/ui/format';

const hz = (value: number) => (value >= 1000 ? `${value / 1000}k` : String(value));
/** Where the scale is written on. */
const WRITTEN = [100, 400, 1600, 6300];

/** What one chain has over the mean of the others, third by third; all of a list share the scale. */
export default function OwnSpectrumChart({
  chain,
  differenceDb,
  reachDb,
  said,
  height,
}: {
  chain: string;
  differenceDb: readonly (number | null)[];
  /** Largest step of all charts beside this. */
  reachDb: number;
  /** What it shows, in words. */
  said: string;
  height: number;
}) {
  const option = useCallback(
    ({ paper }: ChartPaper) => {
      const shown = THIRD_OCTAVES.map(({ centerHz }, i) => ({
        centerHz,
        db: differenceDb[i] ?? null,
      }));
      const first = shown.findIndex(({ db }) => db !== null);
      const last = shown.findLastIndex(({ db }) => db !== null);
      const inside = shown.slice(first, last + 1);
      return {
        grid: { left: 34, right: 6, top: 8, bottom: 22 },
        xAxis: {
          ...axisStyle(paper),
          type: 'category',
          data: inside.map(({ centerHz }) => hz(centerHz)),
          axisTick: { show: false },
          axisLine: { onZero: false, show: false },
          axisLabel: {
            ...axisStyle(paper).axisLabel,
            interval: (i: number) => WRITTEN.includes(inside[i]?.centerHz ?? 0),
          },
        },
        yAxis: {
          ...axisStyle(paper),
          type: 'value',
          min: -reachDb,
          max: reachDb,
          interval: reachDb,
          axisLabel: {
            ...axisStyle(paper).axisLabel,
            formatter: (db: number) => (db === 0 ? '0' : signed(db, 0, '').trim()),
          },
        },
        tooltip: {
          trigger: 'axis',
          formatter: ([at]: { dataIndex: number }[]) => {
            const { centerHz, db } = inside[at!.dataIndex]!;
            return format.encodeHTML(
              `${hz(centerHz)} Hz: ${db === null ? 'nothing' : signed(db, 1, 'dB')}`,
            );
          },
        },
        series: [
          {
            type: 'line',
            symbol: 'none',
            data: inside.map(({ db }) => db),
            lineStyle: { width: 2, color: paper.pen },
            itemStyle: { color: paper.pen },
            markLine: {
              silent: true,
              symbol: 'none',
              label: { show: false },
              lineStyle: { color: paper.soft, type: 'dotted' },
              data: [{ yAxis: 0 }],
            },
          },
        ],
      };
    },
    [differenceDb, reachDb],
  );
  return (
    <PaperChart
      option={option}
      height={height}
      label={`Spectrum of ${chain} against the mean of the others: ${said}`}
    />
  );
}
