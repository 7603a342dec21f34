'use client';

import { useCallback } from 'react';
import type { Figure } from '@/steps/bench/tools/tool';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';

const HEIGHT_PX = 300;

/** Curves of a tool: told apart by dashes and by name, not by colour alone. */
export default function BenchChart({ figure, label }: { figure: Figure; label: string }) {
  const option = useCallback(
    ({ paper }: ChartPaper) => {
      const { curves, categories, logX, markX } = figure;
      const values = curves.flatMap(({ points }) => points.map(([x]) => x));
      return {
        grid: { left: 64, right: 24, top: 34, bottom: 48 },
        legend: { show: curves.length > 1, top: 0, left: 60, textStyle: { color: paper.ink } },
        tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => Number(value).toFixed(2) },
        xAxis: {
          ...axisStyle(paper),
          type: categories ? 'category' : logX ? 'log' : 'value',
          data: categories,
          name: figure.x,
          nameGap: 28,
          axisLabel: {
            ...axisStyle(paper).axisLabel,
            formatter: (value: number | string) =>
              typeof value === 'number' ? String(Number(value.toPrecision(3))) : value,
          },
          ...(categories ? {} : { min: Math.min(...values), max: Math.max(...values) }),
        },
        yAxis: {
          ...axisStyle(paper),
          type: 'value',
          name: figure.y,
          nameGap: 44,
          scale: !categories,
        },
        series: curves.map(({ name, points }, i) => ({
          name,
          type: categories ? 'bar' : 'line',
          barMaxWidth: 44,
          symbol: 'none',
          data: categories ? points.map(([, y]) => y) : points,
          itemStyle: {
            color: categories ? paper.wash : i === 0 ? paper.pen : paper.ochre,
            borderColor: paper.pen,
          },
          lineStyle: { width: 2, type: i === 0 ? 'solid' : 'dashed' },
          ...(i === 0 && markX !== undefined
            ? {
                markLine: {
                  silent: true,
                  symbol: 'none',
                  label: { show: false },
                  lineStyle: { color: paper.soft, type: 'dotted' },
                  data: [{ xAxis: markX }],
                },
              }
            : {}),
        })),
      };
    },
    [figure],
  );
  return <PaperChart option={option} height={HEIGHT_PX} label={label} />;
}
