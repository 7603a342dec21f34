'use client';

import type { CustomSeriesRenderItem } from 'echarts';
import { format } from 'echarts/core';
import { useCallback } from 'react';
import type { ChainMark } from '@/steps/results/ui/marks';
import { placedText } from '@/steps/results/ui/placed-text';
import { money } from '@/ui/format';
import { FACES } from '@/ui/tokens';
import PaperChart, { axisStyle, type ChartPaper } from '@/ui/PaperChart';

/** A chain with its whole price and where it stands in the place that counts most. */
export interface PricedChain {
  name: string;
  sealed: string;
  /** Hundredths of money. */
  price: number;
  value: number;
  from: number | null;
  to: number | null;
  out: boolean;
  /** Nothing that costs no more is liked as well there. */
  onFrontier: boolean;
}

const HEIGHT_PX = 330;
const SYMBOL_PX = 12;

/** Liking against the whole price, with the line of those that nothing beats for less. */
export default function ValueChart({
  chains,
  unit,
  place,
  markOf,
}: {
  chains: readonly PricedChain[];
  unit: 'share' | 'points';
  place: string;
  markOf: (sealed: string) => ChainMark;
}) {
  const option = useCallback(
    ({ paper, lit }: ChartPaper) => {
      const style = axisStyle(paper);
      const bar: CustomSeriesRenderItem = ({ dataIndex }, api) => {
        const { name, price, value, from, to, sealed, out } = chains[dataIndex]!;
        const [x, y1] = api.coord([price / 100, from ?? value]) as [number, number];
        const [, y2] = api.coord([price / 100, to ?? value]) as [number, number];
        return {
          type: 'group',
          children: [
            {
              type: 'line',
              shape: { x1: x, y1, x2: x, y2 },
              style: { stroke: out ? paper.rule : lit(markOf(sealed).colour), lineWidth: 2 },
            },
            {
              type: 'text',
              x,
              y: Math.min(y2, y1 - SYMBOL_PX) - 4,
              style: {
                text: name.replace(' › ', '\n› '),
                fill: out ? paper.soft : paper.ink,
                align: 'center',
                verticalAlign: 'bottom',
                font: `12px ${FACES.sans}`,
                lineHeight: 14,
                width: 110,
                overflow: 'break',
              },
            },
          ],
        };
      };
      const line = chains
        .filter(({ onFrontier }) => onFrontier)
        .sort((x, y) => x.price - y.price)
        .map(({ price, value }) => [price / 100, value]);
      const what = unit === 'share' ? 'liked, %' : 'points';
      return {
        grid: { left: 58, right: 50, top: 56, bottom: 44 },
        xAxis: {
          ...style,
          type: 'value',
          min: 0,
          name: 'price in all, €',
          nameGap: 26,
          axisLabel: {
            ...style.axisLabel,
            formatter: (value: number) => value.toLocaleString('en-GB'),
          },
          splitLine: { show: false },
        },
        yAxis: {
          ...style,
          type: 'value',
          min: 0,
          max: 100,
          interval: 25,
          name: place ? `${what}, ${place} (95 %)` : `${what} (95 %)`,
          nameGap: 34,
        },
        tooltip: {
          trigger: 'item',
          formatter: ({ dataIndex, seriesIndex }: { dataIndex: number; seriesIndex: number }) => {
            const chain = seriesIndex === 0 ? undefined : chains[dataIndex];
            if (!chain) return '';
            return format.encodeHTML(
              `${chain.name}: ${money(chain.price)}, ${placedText(chain, unit)}`,
            );
          },
        },
        series: [
          {
            type: 'line',
            step: 'end',
            data: line,
            symbol: 'none',
            silent: true,
            lineStyle: { color: paper.soft, type: 'dashed', width: 1.2 },
            z: 1,
          },
          {
            type: 'custom',
            renderItem: bar,
            data: chains.map(({ price, value }) => [price / 100, value]),
            z: 2,
          },
          {
            type: 'scatter',
            symbolSize: SYMBOL_PX,
            z: 3,
            data: chains.map(({ sealed, price, value, out, onFrontier }) => {
              const { colour, symbol } = markOf(sealed);
              const drawn = out ? paper.rule : lit(colour);
              return {
                value: [price / 100, value],
                symbol,
                itemStyle: {
                  color: onFrontier && !out ? drawn : paper.sheet,
                  borderColor: drawn,
                  borderWidth: 2,
                  opacity: 1,
                },
              };
            }),
          },
        ],
      };
    },
    [chains, unit, place, markOf],
  );
  const said = chains.map(
    (chain) => `${chain.name}, ${money(chain.price)}: ${placedText(chain, unit)}`,
  );
  return (
    <PaperChart
      option={option}
      height={HEIGHT_PX}
      label={`Liking against price. ${said.join('. ')}`}
    />
  );
}
