'use client';

import type { CustomSeriesRenderItem } from 'echarts';
import { format } from 'echarts/core';
import { useCallback, useMemo } from 'react';
import type { Ladder, Stage } from '@/core/chain/walk';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';

const HEIGHT_PX = 300;
const COLUMN_PX = 44;

const db = (value: number) => `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`;

/** What a stage says when it is pointed at. */
function sentence({ name, signalDb, peakDb, noiseDb, headroomDb }: Stage): string {
  const room = headroomDb === null ? 'no limit known' : `${db(headroomDb)} dB of headroom`;
  const noise = noiseDb === null ? '' : `, noise ${db(noiseDb)} dBu(A)`;
  return `${name}: average ${db(signalDb)} dBu, peaks ${db(peakDb)} dBu${noise}, ${room}`;
}

/**
 * One chain, stage by stage: a column from the noise to the peaks, a stroke at the average, and a bar
 * where the stage ends.
 */
export default function LadderChart({ ladder }: { ladder: Ladder }) {
  const stages = useMemo(() => ladder.stages.filter(({ kind }) => kind !== 'sound'), [ladder]);
  const option = useCallback(
    ({ paper }: ChartPaper) => {
      const column: CustomSeriesRenderItem = ({ dataIndex }, api) => {
        const stage = stages[dataIndex]!;
        const at = (value: number) => api.coord([dataIndex, value]);
        const [x, average] = at(stage.signalDb) as [number, number];
        const peak = at(stage.peakDb)[1]!;
        const floor = at(stage.noiseDb ?? stage.signalDb)[1]!;
        const left = x - COLUMN_PX / 2;
        const limit = stage.headroomDb === null ? null : at(stage.peakDb + stage.headroomDb)[1]!;
        const over = stage.headroomDb !== null && stage.headroomDb < 0;
        const rect = (y1: number, y2: number, fill: string) => ({
          type: 'rect' as const,
          shape: { x: left, y: Math.min(y1, y2), width: COLUMN_PX, height: Math.abs(y2 - y1) },
          style: { fill, stroke: paper.rule, lineWidth: 1 },
        });
        const stroke = (y: number, colour: string, width: number, dash?: number[]) => ({
          type: 'line' as const,
          shape: { x1: left - 6, y1: y, x2: left + COLUMN_PX + 6, y2: y },
          style: { stroke: colour, lineWidth: width, lineDash: dash },
        });
        return {
          type: 'group',
          children: [
            rect(floor, average, paper.wash),
            rect(average, peak, over ? paper.ochreWash : paper.card),
            stroke(average, paper.pen, 2.5),
            ...(limit === null
              ? []
              : [stroke(limit, over ? paper.red : paper.soft, 2, over ? undefined : [5, 4])]),
          ],
        };
      };
      const values = stages.flatMap(({ noiseDb, peakDb, headroomDb }) => [
        noiseDb ?? peakDb,
        peakDb + Math.max(0, headroomDb ?? 0),
      ]);
      return {
        grid: { left: 62, right: 16, top: 14, bottom: 48 },
        xAxis: {
          ...axisStyle(paper),
          type: 'category',
          data: stages.map(({ name }) => name),
          axisLabel: { color: paper.ink, fontSize: 12, interval: 0, width: 110, overflow: 'break' },
          axisTick: { show: false },
        },
        yAxis: {
          ...axisStyle(paper),
          type: 'value',
          name: 'dBu',
          nameGap: 44,
          min: Math.floor(Math.min(...values) / 20) * 20,
          max: Math.ceil((Math.max(...values) + 1) / 20) * 20,
          interval: 20,
        },
        tooltip: {
          trigger: 'item',
          formatter: ({ dataIndex }: { dataIndex: number }) =>
            format.encodeHTML(sentence(stages[dataIndex]!)),
        },
        series: [
          {
            type: 'line',
            data: stages.map(({ signalDb }) => signalDb),
            symbol: 'none',
            silent: true,
            lineStyle: { color: paper.pen, width: 1, type: 'dotted' },
          },
          {
            type: 'custom',
            renderItem: column,
            data: stages.map(({ signalDb }, i) => [i, signalDb]),
            z: 3,
          },
        ],
      };
    },
    [stages],
  );
  return <PaperChart option={option} height={HEIGHT_PX} label={stages.map(sentence).join('. ')} />;
}
