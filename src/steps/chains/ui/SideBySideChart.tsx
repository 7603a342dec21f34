'use client';

import type { CustomSeriesRenderItem } from 'echarts';
import { format } from 'echarts/core';
import { useCallback } from 'react';
import { PEAK_TARGET_DBFS, TARGET_DBFS } from '@/core/chain/target';
import PaperChart, { axisStyle, type ChartPaper, nameAxis } from '@/ui/PaperChart';

const ROW_PX = 36;
const FOOT_PX = 46;
const BAR_PX = 14;

export interface ChainReach {
  name: string;
  /** At the converter, dBFS. */
  noiseDbfs: number;
  averageDbfs: number;
  peakDbfs: number;
}

const db = (value: number) => `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`;
const sentence = ({ name, noiseDbfs, averageDbfs, peakDbfs }: ChainReach) =>
  `${name}: noise ${db(noiseDbfs)}, average ${db(averageDbfs)}, peaks ${db(peakDbfs)} dBFS`;

/** All chains at the converter: from their noise to their average and peaks. */
export default function SideBySideChart({ rows }: { rows: readonly ChainReach[] }) {
  const option = useCallback(
    ({ paper, narrow }: ChartPaper) => {
      const names = nameAxis(
        { paper, narrow },
        rows.map(({ name }) => name),
      );
      const bar: CustomSeriesRenderItem = ({ dataIndex }, api) => {
        const row = rows[dataIndex]!;
        const x = (value: number) => api.coord([value, dataIndex])[0]!;
        const y = api.coord([0, dataIndex])[1]! - BAR_PX / 2;
        const rect = (from: number, to: number, fill: string) => ({
          type: 'rect' as const,
          shape: { x: x(from), y, width: Math.max(1, x(to) - x(from)), height: BAR_PX },
          style: { fill, stroke: paper.rule, lineWidth: 1 },
        });
        return {
          type: 'group',
          children: [
            rect(row.noiseDbfs, row.averageDbfs, paper.wash),
            rect(row.averageDbfs, row.peakDbfs, row.peakDbfs > 0 ? paper.ochreWash : paper.card),
            {
              type: 'line',
              shape: {
                x1: x(row.averageDbfs),
                x2: x(row.averageDbfs),
                y1: y - 4,
                y2: y + BAR_PX + 4,
              },
              style: { stroke: paper.pen, lineWidth: 2.5 },
            },
          ],
        };
      };
      const least = Math.min(-100, ...rows.map(({ noiseDbfs }) => noiseDbfs));
      const most = Math.max(3, ...rows.map(({ peakDbfs }) => peakDbfs + 2));
      return {
        grid: { left: names.left, right: 24, top: 8, bottom: FOOT_PX },
        xAxis: {
          ...axisStyle(paper),
          type: 'value',
          name: narrow
            ? 'dBFS'
            : 'dBFS at the converter; dotted: average and peaks to aim at, and full scale',
          nameGap: 28,
          min: Math.floor(least / 20) * 20,
          max: Math.ceil(most / 10) * 10,
        },
        yAxis: names.axis,
        tooltip: {
          trigger: 'item',
          formatter: ({ dataIndex }: { dataIndex: number }) =>
            format.encodeHTML(sentence(rows[dataIndex]!)),
        },
        series: [
          {
            type: 'custom',
            renderItem: bar,
            data: rows.map(({ averageDbfs }, i) => [averageDbfs, i]),
            markLine: {
              silent: true,
              symbol: 'none',
              label: { show: false },
              lineStyle: { color: paper.soft, type: 'dotted', width: 1.5 },
              data: [TARGET_DBFS, PEAK_TARGET_DBFS, 0].map((xAxis) => ({ xAxis })),
            },
          },
        ],
      };
    },
    [rows],
  );
  return (
    <PaperChart
      option={option}
      height={rows.length * ROW_PX + FOOT_PX + 8}
      label={rows.map(sentence).join('. ')}
    />
  );
}
