'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { useTranslations } from 'use-intl';
import { LoopBar } from '@/ui/player/LoopBar';
import { usePlayer } from '@/ui/player/usePlayer';
import { request, RequestError } from '@/ui/request';
import { useRead } from '@/ui/useRead';
import type { Conducting } from '../schema';
import type { ConductorView } from '../views';
import { ClipCache } from './clip-cache';
import styles from './conductor.module.css';
import listening from './listening.module.css';
import { Loading } from './Loading';
import { Message } from './Message';
import { RoomLevelPage } from './RoomLevelPage';
import { placeOf, TrialHead } from './TrialHead';
import { Slip } from './tasks/Slip';
import { LISTENING } from '@/steps/listening/endpoints';

const ROOM_EVERY_MS = 1500;

interface Conducted {
  view: ConductorView;
  failure: string | null;
  /** Says whether the bank took it. */
  move: (what: Conducting['what'], heardS?: readonly number[]) => Promise<boolean>;
}

/** The room's place, asked for again and again; a reload comes back to it. */
function useRoom(token: string, initial: ConductorView): Conducted {
  const {
    data: view = initial,
    error,
    mutate,
  } = useRead(
    LISTENING.conductorView,
    { token },
    {
      fallbackData: initial,
      refreshInterval: ROOM_EVERY_MS,
      // The next asking is near enough; a page behind another one conducts all the same.
      shouldRetryOnError: false,
      dedupingInterval: ROOM_EVERY_MS / 3,
      refreshWhenHidden: true,
      refreshWhenOffline: true,
    },
  );
  /** Why a move was refused; says nothing any more once the room moved on. */
  const [refused, setRefused] = useState<{ at: number; why: string } | null>(null);
  const { position } = view;
  const failure =
    (refused?.at === position ? refused.why : null) ??
    (error ? 'The bank does not answer just now; this page tries again.' : null);
  const move = useCallback(
    async (what: Conducting['what'], heardS?: readonly number[]) => {
      try {
        const told = heardS && { heardS: [...heardS] };
        const moved = request(LISTENING.move, { token }, { what, from: position, ...told });
        // An answer to what was asked before the move says nothing any more.
        await mutate(moved, { revalidate: false });
        setRefused(null);
        return true;
      } catch (thrown) {
        setRefused({
          at: position,
          why: thrown instanceof RequestError ? thrown.message : 'This did not work; try again.',
        });
        return false;
      }
    },
    [token, position, mutate],
  );
  return { view, failure, move };
}

function thinking({ joined, answered, position }: ConductorView): string {
  const left = Math.max(0, joined - answered);
  const done = position === 0 ? 'practised' : 'answered';
  if (left === 0) return joined === 0 ? 'Nobody has joined.' : `All have ${done}.`;
  return `${answered} of ${joined} have ${done}; ${left === 1 ? '1 is' : `${left} are`} still thinking.`;
}

/** One trial for the room: the words and the sound, nothing that tells a chain. */
function ConductedTrial({
  token,
  view,
  cache,
  automatic,
  onAutomatic,
  move,
}: {
  token: string;
  view: ConductorView;
  cache: ClipCache;
  automatic: boolean;
  onAutomatic: (on: boolean) => void;
  move: Conducted['move'];
}) {
  const t = useTranslations('listening');
  const urls = view.clips.map(({ address }) => `/api/conduct/${token}/clip/${address}`);
  const current = usePlayer(urls, cache.fetch, [], view.resetSound);
  const [turning, setTurning] = useState(false);
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => () => stop.current?.(), []);
  const ready = current?.state.ready ?? false;
  const player = current?.player;
  const heardS = current?.state.heardS;
  const playing = current?.state.playing ?? false;
  const allHeard = heardS?.every((seconds) => seconds >= view.leastHeardS) ?? false;
  /** Whole seconds that the bank knows of. */
  const told = useRef('');
  /** One telling at a time: while the sound runs there is something new with every frame. */
  const telling = useRef(false);
  const [untold, setUntold] = useState(0);
  const seconds = heardS?.map((one) => Math.round(one)).join(' ') ?? '';
  useEffect(() => {
    // Told at once when the phones can answer, and again when what was played more comes to rest.
    if (!allHeard || !heardS || telling.current) return;
    if (view.heard && (playing || told.current === seconds)) return;
    telling.current = true;
    told.current = seconds;
    void move('heard', heardS).then((taken) => {
      telling.current = false;
      // Nothing may move here any more by itself, and the phones still wait.
      if (!taken) setTimeout(() => setUntold((times) => times + 1), ROOM_EVERY_MS);
    });
  }, [allHeard, view.heard, move, heardS, playing, seconds, untold]);

  const turn = useCallback(async () => {
    if (!player) return;
    let [stopped, byHand] = [false, false];
    stop.current = () => {
      stopped = true;
    };
    setTurning(true);
    const wait = player.state.lengthS * 1000;
    for (let i = 0; i < player.state.heardS.length && !stopped; i++) {
      player.pause();
      player.seek(0);
      await player.select(i);
      // The reset before the first clip is part of its turn.
      const before = player.state.heardS[i]!;
      while (!stopped && player.state.heardS[i]! - before < wait / 1000 - 0.05) {
        await new Promise((resolve) => setTimeout(resolve, 50));
        // Somebody pressed a slip, or a device went away: the turn is over, and can begin anew.
        if (!player.state.playing || player.state.selected !== i) byHand = stopped = true;
      }
    }
    if (!byHand) player.pause();
    setTurning(false);
  }, [player]);

  // Automatic: each in turn as soon as they are there, and on when all have answered.
  const began = useRef(false);
  useEffect(() => {
    if (!automatic || !ready || began.current || view.heard) return;
    began.current = true;
    void turn();
  }, [automatic, ready, turn, view.heard]);
  const complete = view.heard && view.joined > 0 && view.answered >= view.joined && !turning;
  /** On its way to the next trial: nothing of this one sounds or is pressed any more. */
  const [leaving, setLeaving] = useState(false);
  const goOn = useCallback(() => {
    stop.current?.();
    setLeaving(true);
    void move('next').then((taken) => {
      if (!taken) setLeaving(false);
    });
  }, [move]);
  useEffect(() => {
    if (automatic && complete) void move('next');
  }, [automatic, complete, move]);

  if (!current || !ready || !player) return <Loading state={current?.state ?? null} />;
  const { state } = current;
  const practice = view.position === 0;
  const onward = practice
    ? 'Begin the trials'
    : view.position === view.trials
      ? 'End the sitting'
      : 'Next trial';
  const sounding = state.playing ? view.clips[state.selected]!.word : null;
  return (
    <main className={listening.page}>
      <TrialHead
        view={{ trials: view.trials, answered: Math.max(0, view.position - 1) }}
        place={practice ? 'Practice; nothing of it counts' : placeOf(t, view)}
      />
      <h1 className={listening.heading}>
        {view.part.learning ? 'Learn these two by heart' : view.part.prompt}
      </h1>
      <div className={styles.stage} aria-live="polite">
        {sounding ?? (
          <span className={styles.quiet}>{practice ? 'A made-up phrase' : view.title}</span>
        )}
      </div>
      <div className={styles.slips}>
        {view.clips.map(({ word, address }, i) => (
          <Slip
            key={address}
            word={word}
            index={i}
            heard={state.heardS[i]! >= view.leastHeardS}
            player={player}
            state={state}
          />
        ))}
      </div>
      <LoopBar player={player} state={state} />
      <div className={styles.actions}>
        <label className={styles.auto}>
          <input
            type="checkbox"
            checked={automatic}
            onChange={({ target }) => onAutomatic(target.checked)}
          />
          go on by itself
        </label>
        <p className={listening.hint} role="status">
          {view.heard ? thinking(view) : 'Play every recording; then the phones can answer.'}
          {view.heard &&
            view.tellsNames &&
            ' This ends a part: once all have answered, each reads their own answers with the names on the phone; go on when they have.'}
        </p>
        <button
          className={styles.second}
          disabled={leaving}
          onClick={() => {
            if (turning) stop.current?.();
            else void turn();
          }}
        >
          {turning ? 'Stop' : 'Play each in turn'}
        </button>
        <button className={listening.main} disabled={!view.heard || leaving} onClick={goOn}>
          {onward}
        </button>
      </div>
    </main>
  );
}

/** Whoever runs a room: no names of chains, one click a trial or by itself, and the same page for the big screen. */
export function ConductorApp({
  token,
  initial,
  link,
  qr,
}: {
  token: string;
  initial: ConductorView;
  /** The listeners' link, and its picture. */
  link: string;
  qr: string;
}) {
  const { view, failure, move } = useRoom(token, initial);
  const [cache] = useState(() => new ClipCache());
  const [automatic, setAutomatic] = useState(false);
  const urls = [...view.clips.map(({ address }) => address), ...view.comingAddresses]
    .map((address) => `/api/conduct/${token}/clip/${address}`)
    .join(' ');
  useEffect(() => {
    const wanted = urls.split(' ').filter((url) => url !== '');
    cache.keepOnly(wanted);
    for (const url of wanted) void cache.fetch(url).catch(() => undefined);
  }, [cache, urls]);
  if (view.state === 'closed' || view.position > view.trials) {
    return (
      <Message title="That was all; thank you" brand="Zeitbank sitting">
        {view.state === 'closed'
          ? 'The sitting is closed.'
          : 'Every trial was heard. The engineer closes the sitting and opens the key.'}
      </Message>
    );
  }
  const note = failure && (
    <p role="alert" className={listening.failure}>
      {failure}
    </p>
  );
  if (view.position === 0 && view.stage === 'level') {
    return (
      <RoomLevelPage
        url={`/api/conduct/${token}/clip/${view.clips[0]!.address}`}
        fetchBytes={cache.fetch}
        note={note}
        onPractise={() => move('practice')}
        onBegin={() => move('next')}
      />
    );
  }
  if (view.position === 0 && view.stage === 'joining') {
    return (
      <main className={listening.page}>
        <p className={listening.brand}>Zeitbank sitting</p>
        <h1 className={listening.heading}>Join with your phone</h1>
        <div className={styles.joining}>
          {/* eslint-disable-next-line @next/next/no-img-element -- drawn here, nothing to optimise */}
          <img src={qr} alt="QR code of the listeners’ link" className={styles.qr} />
          <div>
            <p className={listening.hint}>Code</p>
            <p className={styles.code}>{view.code}</p>
            <p className={listening.hint}>at {link.replace(/\/listen\/.*/, '/listen')}</p>
            <p className={styles.count} role="status">
              {view.joined === 0
                ? 'Nobody has joined yet.'
                : `${view.joined} ${view.joined === 1 ? 'listener has' : 'listeners have'} joined.`}
            </p>
          </div>
        </div>
        <p className={listening.prose}>
          {view.title}. {view.trials} trials, about {Math.ceil(view.minutesLeft)} minutes. When all
          have come, the level is set, and one trial is practised.
        </p>
        {note}
        <div className={listening.foot}>
          <button
            className={listening.main}
            disabled={view.joined === 0}
            onClick={() => void move('level')}
          >
            Set the level
          </button>
        </div>
      </main>
    );
  }
  return (
    <>
      <ConductedTrial
        key={`${view.stage} ${view.position}`}
        token={token}
        view={view}
        cache={cache}
        automatic={automatic}
        onAutomatic={setAutomatic}
        move={move}
      />
      {note}
    </>
  );
}
