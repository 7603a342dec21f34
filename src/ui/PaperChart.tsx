'use client';

import { BarChart, CustomChart, LineChart, ScatterChart } from 'echarts/charts';
import {
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  TitleComponent,
  TooltipComponent,
} from 'echarts/components';
import * as echarts from 'echarts/core';
import type { EChartsCoreOption } from 'echarts';
import { SVGRenderer } from 'echarts/renderers';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { FACES, PAPERS } from './tokens';

echarts.use([
  BarChart,
  CustomChart,
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  TitleComponent,
  TooltipComponent,
  SVGRenderer,
]);

export type Paper = (typeof PAPERS)['light'];

/** What a chart may ask of the paper it is drawn on. */
export interface ChartPaper {
  paper: Paper;
  /** Of the chart, pixels. */
  width: number;
  /** Whether there is only the width of a phone. */
  narrow: boolean;
  /** A colour made for daylight, as it has to be by lamplight. */
  lit: (colour: string) => string;
}

const NARROW_PX = 480;

/** Axis parts that all charts share. */
export function axisStyle(paper: Paper) {
  return {
    nameLocation: 'middle',
    nameTextStyle: { color: paper.soft, fontSize: 12 },
    axisLabel: { color: paper.soft, fontFamily: FACES.mono, fontSize: 11 },
    axisLine: { lineStyle: { color: paper.rule } },
    splitLine: { lineStyle: { color: paper.hair } },
  } as const;
}

/** Names down the left side, as a table has them, and the room they take. */
export function nameAxis(
  { paper, narrow }: Pick<ChartPaper, 'paper' | 'narrow'>,
  names: readonly string[],
) {
  const width = narrow ? 100 : 175;
  return {
    left: width + (narrow ? 12 : 15),
    axis: {
      type: 'category',
      inverse: true,
      data: names,
      axisLabel: {
        color: paper.ink,
        fontSize: narrow ? 12 : 14,
        lineHeight: narrow ? 14 : 18,
        width,
        overflow: 'break',
        align: 'left',
        margin: width + 7,
      },
      axisTick: { show: false },
      axisLine: { show: false },
      splitLine: { show: true, lineStyle: { color: paper.hair } },
    },
  } as const;
}

/** Before it is known how much room there is. */
const USUAL_PX = 900;
const heightAt = (height: number | ((width: number) => number), width: number) =>
  typeof height === 'number' ? height : height(width);

/** A chart in the colours of the paper that is on; follows its size. */
export default function PaperChart({
  option,
  height,
  label,
}: {
  /** Kept stable by the caller: a new one draws anew. */
  option: (on: ChartPaper) => EChartsCoreOption;
  /** Pixels; where it follows the width, kept stable like the option. */
  height: number | ((width: number) => number);
  /** What it shows, for those who do not see it. */
  label: string;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const { mode, systemMode } = useColorScheme();
  const [printing, setPrinting] = useState(false);
  const dark = !printing && (mode === 'system' ? systemMode : mode) === 'dark';
  useEffect(() => {
    // Drawn anew at once: what is printed is as it stands when these return.
    const print = (on: boolean) => () => flushSync(() => setPrinting(on));
    const [begin, end] = [print(true), print(false)];
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
    };
  }, []);
  useEffect(() => {
    if (!holder.current) return;
    const paper = dark ? PAPERS.dark : PAPERS.light;
    const lit = (colour: string) => (dark ? String(echarts.color.lift(colour, -0.45)) : colour);
    const frame = holder.current;
    const chart = echarts.init(frame, null, { renderer: 'svg' });
    const draw = (width: number) => {
      frame.style.height = `${heightAt(height, width)}px`;
      chart.resize();
      chart.setOption(
        {
          animation: false,
          textStyle: { fontFamily: FACES.sans, color: paper.ink },
          ...option({ paper, width, narrow: width < NARROW_PX, lit }),
        },
        { notMerge: true },
      );
    };
    let drawn = frame.clientWidth;
    draw(drawn);
    const resize = new ResizeObserver(() => {
      if (frame.clientWidth === drawn) return;
      drawn = frame.clientWidth;
      draw(drawn);
    });
    resize.observe(frame);
    return () => {
      resize.disconnect();
      chart.dispose();
    };
  }, [option, height, dark]);
  const style = { width: '100%', height: heightAt(height, USUAL_PX) };
  return <div ref={holder} role="img" aria-label={label} style={style} />;
}
