'use client';

import { format } from 'echarts/core';
import { useCallback } from 'react';
import { shareAgainstAverage } from '@/core/statistics/pair/findings';
import type { PairStrength } from '@/core/statistics/pair/analyze';
import PaperChart, { type ChartPaper, nameAxis } from '@/ui/PaperChart';
import { intervalSeries } from '@/ui/interval-series';
import { FACES } from '@/ui/tokens';
import type { ChainMark } from '../marks';

const ROW_PX = 44;
const FOOT_PX = 46;
const HEAD_PX = 10;

/** Strengths with their intervals, best on top; the axis is in shares against an average chain. */
export default function StrengthChart({
  rows,
  markOf,
}: {
  /** Sorted, best first; only estimated ones. */
  rows: readonly PairStrength[];
  markOf: (chain: string) => ChainMark;
}) {
  const height = HEAD_PX + rows.length * ROW_PX + FOOT_PX;
  const option = useCallback(
    ({ paper, narrow, lit }: ChartPaper) => {
      const names = nameAxis(
        { paper, narrow },
        rows.map(({ chain }) => chain),
      );
      const reach = Math.max(
        1,
        ...rows.map(({ ci95, logStrength }) =>
          Math.max(Math.abs(ci95?.[0] ?? 0), Math.abs(ci95?.[1] ?? 0), Math.abs(logStrength ?? 0)),
        ),
      );
      const percent = (value: number) => `${Math.round(100 * shareAgainstAverage(value))} %`;
      return {
        grid: { left: names.left, right: 24, top: HEAD_PX, bottom: FOOT_PX },
        xAxis: {
          type: 'value',
          min: -reach * 1.1,
          max: reach * 1.1,
          name: 'of choices made, against an average chain (95 % interval, listeners as the unit)',
          nameLocation: 'middle',
          nameGap: 28,
          nameTextStyle: { color: paper.soft, fontSize: 12 },
          axisLabel: {
            formatter: percent,
            color: paper.soft,
            fontFamily: FACES.mono,
            fontSize: 11,
            showMinLabel: false,
            showMaxLabel: false,
          },
          splitLine: { show: false },
          axisLine: { show: false },
        },
        yAxis: names.axis,
        tooltip: {
          trigger: 'item',
          formatter: ({ dataIndex }: { dataIndex: number }) => {
            const { chain, logStrength, ci95, wins, losses, ties } = rows[dataIndex]!;
            const interval = ci95 ? `, 95 % ${percent(ci95[0])} to ${percent(ci95[1])}` : '';
            return format.encodeHTML(
              `${chain}: ${percent(logStrength ?? 0)}${interval}; won ${wins}, lost ${losses}, level ${ties}`,
            );
          },
        },
        series: intervalSeries(
          rows.map(({ chain, logStrength, ci95 }) => {
            const { colour, symbol } = markOf(chain);
            return {
              value: logStrength,
              interval: ci95,
              colour: lit(colour),
              symbol,
              filled: true,
            };
          }),
          { paper, level: 0 },
        ),
      };
    },
    [rows, markOf],
  );
  const summary = rows
    .map(
      ({ chain, logStrength }) =>
        `${chain} ${Math.round(100 * shareAgainstAverage(logStrength ?? 0))} %`,
    )
    .join(', ');
  return (
    <PaperChart
      option={option}
      height={height}
      label={`Strength of each chain, chosen against an average chain: ${summary}`}
    />
  );
}
