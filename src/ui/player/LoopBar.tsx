'use client';

import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import type { SyncPlayer, PlayerState } from './engine';
import styles from './player.module.css';

const SHORTEST_S = 0.5;
const NUDGE_S = 0.25;

type End = 'from' | 'to';

/** What a screen reader calls its handles. */
export interface LoopNames {
  begins: string;
  ends: string;
  seconds: (seconds: string) => string;
}
const ENGLISH: LoopNames = {
  begins: 'Loop begins',
  ends: 'Loop ends',
  seconds: (seconds) => `${seconds} seconds`,
};

/** The passage as a line, with the loop between two handles and the place that sounds. */
export function LoopBar({
  player,
  state,
  names = ENGLISH,
}: {
  player: SyncPlayer;
  state: PlayerState;
  names?: LoopNames;
}) {
  const track = useRef<HTMLDivElement>(null);
  const { lengthS, loopS, positionS } = state;
  const [from, to] = loopS;
  const move = (end: End, seconds: number) => {
    if (end === 'from') player.setLoop(Math.max(0, Math.min(seconds, to - SHORTEST_S)), to);
    else player.setLoop(from, Math.min(lengthS, Math.max(seconds, from + SHORTEST_S)));
  };
  const secondsAt = (clientX: number) => {
    const box = track.current?.getBoundingClientRect();
    if (!box) return 0;
    return (Math.min(Math.max(clientX - box.left, 0), box.width) / box.width) * lengthS;
  };
  const handle = (end: End) => {
    const value = end === 'from' ? from : to;
    const onKeyDown = (event: KeyboardEvent) => {
      const step = event.key === 'ArrowLeft' ? -NUDGE_S : event.key === 'ArrowRight' ? NUDGE_S : 0;
      if (step === 0) return;
      event.preventDefault();
      event.stopPropagation();
      move(end, value + step);
    };
    const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
      event.preventDefault();
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
    };
    const onPointerMove = (event: PointerEvent<HTMLDivElement>) => {
      if (event.currentTarget.hasPointerCapture(event.pointerId)) {
        move(end, secondsAt(event.clientX));
      }
    };
    return (
      <div
        className={styles.handle}
        role="slider"
        tabIndex={0}
        aria-label={end === 'from' ? names.begins : names.ends}
        aria-valuemin={0}
        aria-valuemax={Math.round(lengthS * 10) / 10}
        aria-valuenow={Math.round(value * 10) / 10}
        aria-valuetext={names.seconds(value.toFixed(1))}
        style={{ left: `${(100 * value) / (lengthS || 1)}%` }}
        onKeyDown={onKeyDown}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
      />
    );
  };
  return (
    <div className={styles.bar}>
      <div
        className={styles.track}
        ref={track}
        onPointerDown={({ clientX }) => player.seek(secondsAt(clientX))}
      >
        <div
          className={styles.loop}
          style={{
            left: `${(100 * from) / (lengthS || 1)}%`,
            width: `${(100 * (to - from)) / (lengthS || 1)}%`,
          }}
        />
        <div className={styles.place} style={{ left: `${(100 * positionS) / (lengthS || 1)}%` }} />
        {handle('from')}
        {handle('to')}
      </div>
      <div className={styles.ends}>
        <span>{from.toFixed(1)} s</span>
        <span>{to.toFixed(1)} s</span>
      </div>
    </div>
  );
}
