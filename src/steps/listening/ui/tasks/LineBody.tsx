'use client';

import {
  type KeyboardEvent,
  type PointerEvent,
  useCallback,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react';
import { useTranslations } from 'use-intl';
import styles from '../listening.module.css';
import { type BodyProps, useKeys } from './body';
import { heightsBeside, rowsAbove } from './line-layout';
import { Slip } from './Slip';

const PHONE = '(max-width: 700px)';
/** Least distance of two slips, in points of the line; more where it is short. */
const GAP = 12;
const PHONE_GAP = 14;
const ROW_PX = 56;
/** Room above the line that is there from the start, so that it does not jump. */
const FEWEST_ROWS = 2;
const MIDDLE = 50;
const DRAGGED_PX = 5;

const STEPS: Record<string, number> = {
  ArrowLeft: -2,
  ArrowDown: -2,
  ArrowRight: 2,
  ArrowUp: 2,
  PageDown: -10,
  PageUp: 10,
};

function usePhone(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(PHONE);
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => window.matchMedia(PHONE).matches,
    () => false,
  );
}

const clamp = (place: number) => Math.min(100, Math.max(0, Math.round(place)));

/**
 * Slips on one line; they may share a spot, and each must be placed.
 * @param against whether the first clip is a reference, which is heard and not placed
 */
export function LineBody({ against = false, ...props }: BodyProps & { against?: boolean }) {
  const t = useTranslations('listening');
  const task = props.part.task as 'line' | 'reference' | 'likeness';
  const [lower, upper] = [t(`tasks.${task}.lower`), t(`tasks.${task}.upper`)];
  // Only where the middle means something.
  const middle = task === 'reference' ? t('tasks.reference.middle') : null;
  const { clips, player, state, silent, heard, open, answer, onAnswer } = props;
  /** Slots that are placed. */
  const first = against ? 1 : 0;
  const phone = usePhone();
  const track = useRef<HTMLDivElement>(null);
  const wrapper = useRef<HTMLDivElement>(null);
  const grabbed = useRef<{ slot: number; x: number; y: number; moved: boolean } | null>(null);
  /** The slip that keys have just put on the line, where it is another element. */
  const refocus = useRef<number | null>(null);
  const [places, setPlaces] = useState<readonly (number | null)[]>(() =>
    clips.slice(first).map(() => null),
  );
  const locked = answer !== null && !open;
  const put = useCallback(
    (slot: number, place: number) => {
      if (locked) return;
      const next = places.map((old, i) => (i === slot - first ? clamp(place) : old));
      setPlaces(next);
      const all = next.flatMap((one) => one ?? []);
      if (all.length === next.length) onAnswer({ places: all });
    },
    [first, locked, onAnswer, places],
  );
  const step = useCallback(
    (slot: number, key: string): boolean => {
      if (slot < first) return false;
      const old = places[slot - first]!;
      const by = STEPS[key];
      if (by !== undefined) put(slot, old === null ? MIDDLE : old + by);
      else if (key === 'Home') put(slot, 0);
      else if (key === 'End') put(slot, 100);
      else return false;
      return true;
    },
    [first, places, put],
  );
  useKeys(
    Object.fromEntries(
      [...Object.keys(STEPS), 'Home', 'End'].map((key) => [
        key,
        () => void step(state.selected, key),
      ]),
    ),
  );

  const placeAt = ({ clientX, clientY }: { clientX: number; clientY: number }): number | null => {
    const box = track.current?.getBoundingClientRect();
    if (!box) return null;
    return phone
      ? 100 - (100 * (clientY - box.top)) / box.height
      : (100 * (clientX - box.left)) / box.width;
  };
  const hear = (slot: number) => {
    if (state.playing && state.selected === slot) player.pause();
    else void player.select(slot);
  };
  const token = (slot: number) => {
    const { word, url } = clips[slot]!;
    const place = places[slot - first];
    const selected = state.selected === slot;
    const onPointerDown = (event: PointerEvent) => {
      // Held by the whole: a slip that leaves the tray is another element on the line.
      wrapper.current?.setPointerCapture(event.pointerId);
      grabbed.current = { slot, x: event.clientX, y: event.clientY, moved: false };
    };
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.altKey || event.ctrlKey || event.metaKey) return;
      if (event.key === ' ') hear(slot);
      else if (step(slot, event.key)) refocus.current = slot;
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    return (
      <div
        key={url}
        ref={(element) => {
          if (element && refocus.current === slot) {
            refocus.current = null;
            element.focus();
          }
        }}
        className={styles.token}
        role="slider"
        tabIndex={0}
        aria-label={word}
        aria-orientation={phone ? 'vertical' : 'horizontal'}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={place ?? MIDDLE}
        aria-valuetext={
          place === null ? t('line.slipNotPlaced') : t('line.slipPlace', { place: place ?? MIDDLE })
        }
        aria-disabled={locked}
        data-sounding={(state.playing && selected) || undefined}
        data-selected={selected || undefined}
        data-heard={heard[slot] || undefined}
        onPointerDown={onPointerDown}
        onClick={({ detail }) => {
          // From a screen reader; fingers and mice come by their pointer.
          if (detail === 0) hear(slot);
        }}
        onKeyDown={onKeyDown}
      >
        {word}
      </div>
    );
  };
  const onPointerMove = (event: PointerEvent) => {
    const grab = grabbed.current;
    if (!grab) return;
    if (!grab.moved && Math.hypot(event.clientX - grab.x, event.clientY - grab.y) < DRAGGED_PX) {
      return;
    }
    grab.moved = true;
    const now = placeAt(event);
    if (now !== null) put(grab.slot, now);
  };
  const onPointerUp = () => {
    const grab = grabbed.current;
    grabbed.current = null;
    if (grab && !grab.moved) hear(grab.slot);
  };
  const placed = places.flatMap((place, i) => (place === null ? [] : [{ slot: i + first, place }]));
  const rows = rowsAbove(placed, GAP);
  const heights = heightsBeside(placed, PHONE_GAP);
  const highest = Math.max(FEWEST_ROWS, ...rows.values());
  const waiting = places.flatMap((place, i) => (place === null ? [i + first] : []));
  const tray = (
    <div className={styles.tray}>
      <span className={styles.hint}>
        {waiting.length > 0 ? t('line.notPlaced') : t('line.allPlaced')}
      </span>
      {waiting.map(token)}
    </div>
  );
  return (
    <div
      ref={wrapper}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => {
        grabbed.current = null;
      }}
    >
      {against && (
        <div className={styles.single}>
          <Slip
            word={clips[0]!.word}
            index={0}
            heard={heard[0]!}
            player={player}
            state={state}
            silent={silent}
          />
        </div>
      )}
      {!phone && tray}
      <div
        className={phone ? styles.lineDown : styles.lineAcross}
        style={phone ? undefined : { height: highest * ROW_PX + 2 * ROW_PX }}
      >
        <div
          ref={track}
          className={styles.lineTrack}
          onClick={(event) => {
            const now = placeAt(event);
            // A tap on the line places the slip that was heard last.
            if (event.target === event.currentTarget && now !== null && state.selected >= first) {
              put(state.selected, now);
            }
          }}
        >
          <div className={styles.rule} />
          {middle && <div className={styles.middle} />}
          {placed.map(({ slot, place }) => {
            const beside = heights.get(slot) ?? 0;
            const row = rows.get(slot) ?? 0;
            return phone ? (
              <div key={slot}>
                <svg className={styles.threads} aria-hidden>
                  <line x1="0" y1={`${100 - place}%`} x2="100%" y2={`${beside}%`} />
                </svg>
                <div className={styles.dot} style={{ top: `${100 - place}%` }} />
                <div className={styles.beside} style={{ top: `${beside}%` }}>
                  {token(slot)}
                </div>
              </div>
            ) : (
              <div
                key={slot}
                className={styles.above}
                // Threads of higher rows pass behind the slips of lower ones.
                style={{ left: `${place}%`, zIndex: highest - row }}
              >
                <div>{token(slot)}</div>
                <div className={styles.thread} style={{ height: row * ROW_PX + 28 }} />
                <div className={styles.dot} />
              </div>
            );
          })}
        </div>
        <div className={styles.lineEnds}>
          <span>{phone ? upper : lower}</span>
          {middle && <span>{middle}</span>}
          <span>{phone ? lower : upper}</span>
        </div>
      </div>
      {phone && tray}
    </div>
  );
}
