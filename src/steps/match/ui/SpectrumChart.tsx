'use client';

import { format } from 'echarts/core';
import { useCallback } from 'react';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';

const HEIGHT_PX = 420;
const NOISE = 'its noise in the room';

interface Row {
  centerHz: number;
  differenceDb: number | null;
  coherence: number;
  levelDb: number | null;
  baseDb: number | null;
  noiseDb: number | null;
}

const hz = (value: number) => (value >= 1000 ? `${value / 1000}k` : String(value));

/** Difference on top, both spectra below, over one frequency axis. */
export default function SpectrumChart({
  rows,
  name,
  referenceName,
  sure,
  noise,
}: {
  rows: Row[];
  name: string;
  referenceName: string;
  sure: number;
  /** Whether a noise floor is drawn. */
  noise: boolean;
}) {
  const option = useCallback(
    ({ paper }: ChartPaper) => {
      const reach = Math.max(6, ...rows.map(({ differenceDb }) => Math.abs(differenceDb ?? 0)));
      const top = Math.ceil(reach / 6) * 6;
      const centres = rows.map(({ centerHz }) => hz(centerHz));
      const x = (gridIndex: number, labelled: boolean) => ({
        ...axisStyle(paper),
        type: 'category',
        gridIndex,
        data: centres,
        axisTick: { show: false },
        axisLabel: {
          ...axisStyle(paper).axisLabel,
          show: labelled,
          interval: rows.length > 40 ? 5 : 2,
        },
        axisLine: { onZero: false, lineStyle: { color: paper.rule } },
        name: labelled ? 'Hz' : '',
        nameGap: 26,
      });
      const line = (label: string, data: (number | null)[], colour: string, dash: boolean) => ({
        name: label,
        type: 'line',
        xAxisIndex: 1,
        yAxisIndex: 1,
        symbol: 'none',
        data,
        itemStyle: { color: colour },
        lineStyle: { width: 2, color: colour, type: dash ? 'dashed' : 'solid' },
      });
      return {
        grid: [
          { left: 58, right: 16, top: 12, height: 180 },
          { left: 58, right: 16, top: 232, height: 136 },
        ],
        legend: {
          top: 204,
          left: 54,
          data: noise ? [name, referenceName, NOISE] : [name, referenceName],
          textStyle: { color: paper.ink },
        },
        xAxis: [x(0, false), x(1, true)],
        yAxis: [
          {
            ...axisStyle(paper),
            type: 'value',
            name: 'difference, dB',
            nameGap: 40,
            min: -top,
            max: top,
            interval: top / 2,
          },
          {
            ...axisStyle(paper),
            type: 'value',
            gridIndex: 1,
            name: 'dBFS',
            nameGap: 40,
            scale: true,
            splitNumber: 3,
          },
        ],
        tooltip: {
          trigger: 'axis',
          formatter: ([at]: { dataIndex: number }[]) => {
            const { centerHz, differenceDb, coherence } = rows[at!.dataIndex]!;
            return format.encodeHTML(
              `${centerHz} Hz: ${differenceDb === null ? '–' : differenceDb.toFixed(1)} dB, coherence ${coherence.toFixed(2)}`,
            );
          },
        },
        series: [
          {
            name: 'difference',
            type: 'line',
            symbolSize: 6,
            lineStyle: { width: 1.5, color: paper.pen },
            data: rows.map(({ differenceDb, coherence }) => ({
              value: differenceDb,
              symbol: coherence >= sure ? 'circle' : 'emptyCircle',
              itemStyle: { color: paper.pen, borderColor: paper.pen },
            })),
            markLine: {
              silent: true,
              symbol: 'none',
              label: { show: false },
              lineStyle: { color: paper.soft, type: 'dotted' },
              data: [{ yAxis: 0 }],
            },
          },
          line(
            name,
            rows.map(({ levelDb }) => levelDb),
            paper.pen,
            false,
          ),
          line(
            referenceName,
            rows.map(({ baseDb }) => baseDb),
            paper.ochre,
            true,
          ),
          ...(noise
            ? [
                line(
                  NOISE,
                  rows.map(({ noiseDb }) => noiseDb),
                  paper.soft,
                  true,
                ),
              ]
            : []),
        ],
      };
    },
    [rows, name, referenceName, sure, noise],
  );
  const said = rows
    .filter(({ differenceDb, coherence }) => differenceDb !== null && coherence >= sure)
    .map(({ centerHz, differenceDb }) => `${centerHz} Hz ${(differenceDb ?? 0).toFixed(1)} dB`);
  return (
    <PaperChart
      option={option}
      height={HEIGHT_PX}
      label={`${name} against ${referenceName}: ${said.join(', ')}`}
    />
  );
}
