'use client';

import { format } from 'echarts/core';
import { useCallback } from 'react';
import type { PicturePlace } from '@/steps/results/across';
import PaperChart, { axisStyle, type ChartPaper, nameAxis } from '@/ui/PaperChart';
import { intervalSeries } from '@/ui/interval-series';
import { FACES } from '@/ui/tokens';
import type { ChainMark } from './marks';
import { placedText } from './placed-text';

const ROW_PX = 28;
const HEAD_PX = 26;
const FOOT_PX = 26;
const GAP_PX = 34;
const LEAST_PX = 170;
const NAMES_PX = 190;
const NARROW_NAMES_PX = 112;

/** Places that fit beside each other. */
function columnsAt(width: number, places: number): number {
  const names = width < 2 * NAMES_PX + LEAST_PX ? NARROW_NAMES_PX : NAMES_PX;
  return Math.max(1, Math.min(places, Math.floor((width - names) / LEAST_PX)));
}

/** Every chain in every place, on axes that are the same. */
export default function PlacesChart({
  places,
  chains,
  markOf,
}: {
  places: readonly PicturePlace[];
  /** From top to bottom. */
  chains: readonly string[];
  markOf: (chain: string) => ChainMark;
}) {
  const bandPx = HEAD_PX + chains.length * ROW_PX + FOOT_PX;
  const height = useCallback(
    (width: number) => Math.ceil(places.length / columnsAt(width, places.length)) * bandPx,
    [places, bandPx],
  );
  const option = useCallback(
    ({ paper, width, narrow, lit }: ChartPaper) => {
      const columns = columnsAt(width, places.length);
      const names = nameAxis({ paper, narrow }, chains);
      const wide = (width - names.left - columns * GAP_PX) / columns;
      const left = (i: number) => names.left + (i % columns) * (wide + GAP_PX) + GAP_PX / 2;
      const top = (i: number) => Math.floor(i / columns) * bandPx + HEAD_PX;
      const { axisLabel } = axisStyle(paper);
      return {
        title: places.map(({ place, claimed }, i) => ({
          text: place + (claimed ? '' : place ? ' (nothing shown)' : 'Nothing shown'),
          left: left(i) + wide / 2,
          top: top(i) - HEAD_PX + 4,
          textAlign: 'center',
          padding: 0,
          textStyle: { color: paper.soft, fontSize: 13, fontWeight: 600, fontFamily: FACES.sans },
        })),
        grid: places.map((_, i) => ({
          left: left(i),
          width: wide,
          top: top(i),
          height: chains.length * ROW_PX,
        })),
        xAxis: places.map(({ unit }, i) => ({
          type: 'value',
          gridIndex: i,
          min: 0,
          max: 100,
          interval: 50,
          axisLabel: {
            ...axisLabel,
            formatter: (value: number) =>
              value === 100 && unit === 'share' ? '100 %' : String(value),
          },
          splitLine: { show: false },
          axisLine: { show: true, lineStyle: { color: paper.rule } },
        })),
        yAxis: places.map((_, i) => ({
          ...names.axis,
          gridIndex: i,
          axisLabel: {
            ...names.axis.axisLabel,
            show: i % columns === 0,
            margin: names.axis.axisLabel.margin + GAP_PX / 2,
          },
        })),
        tooltip: {
          trigger: 'item',
          formatter: ({ seriesIndex, dataIndex }: { seriesIndex: number; dataIndex: number }) => {
            const place = places[Math.floor(seriesIndex / 2)]!;
            const own = place.chains.find(({ chain }) => chain === chains[dataIndex]);
            if (!own) return '';
            return format.encodeHTML(
              `${own.chain}${place.place && `, ${place.place}`}: ${placedText(own, place.unit)}`,
            );
          },
        },
        series: places.flatMap((place, i) =>
          intervalSeries(
            chains.map((chain) => {
              const own = place.chains.find((one) => one.chain === chain);
              const { colour, symbol } = markOf(chain);
              const whole = own && own.from !== null && own.to !== null;
              return {
                value: own?.value ?? null,
                interval: whole ? ([own.from, own.to] as [number, number]) : null,
                colour: lit(colour),
                symbol,
                filled: own?.leads ?? false,
              };
            }),
            {
              paper,
              level: place.unit === 'share' ? 50 : null,
              axes: { xAxisIndex: i, yAxisIndex: i },
            },
          ),
        ),
      };
    },
    [places, chains, markOf, bandPx],
  );
  const said = places.map(
    ({ place, unit, chains: own }) =>
      `${place && `${place}: `}${own.map((one) => `${one.chain} ${placedText(one, unit)}`).join(', ')}`,
  );
  return (
    <PaperChart
      option={option}
      height={height}
      label={`Where each chain stands in each place. ${said.join('. ')}`}
    />
  );
}
