'use client';

import { type ReactNode, useState } from 'react';
import { usePlayer } from '@/ui/player/usePlayer';
import styles from './conductor.module.css';
import listening from './listening.module.css';
import { Loading } from './Loading';

/** The loudspeakers' level is set once, by ears at the seats, on a phrase that belongs to no trial. */
export function RoomLevelPage({
  url,
  fetchBytes,
  note,
  onPractise,
  onBegin,
}: {
  url: string;
  fetchBytes: (url: string) => Promise<ArrayBuffer>;
  note: ReactNode;
  onPractise: () => Promise<unknown>;
  onBegin: () => Promise<unknown>;
}) {
  const current = usePlayer([url], fetchBytes);
  const [busy, setBusy] = useState(false);
  if (!current?.state.ready) return <Loading state={current?.state ?? null} />;
  const { player, state } = current;
  const played = state.heardS[0]! >= 1;
  const goOn = (to: () => Promise<unknown>) => {
    setBusy(true);
    player.pause();
    void to().finally(() => setBusy(false));
  };
  return (
    <main className={listening.page}>
      <p className={listening.brand}>Zeitbank sitting</p>
      <h1 className={listening.heading}>Set the room’s level once</h1>
      <p className={listening.lead}>
        Start with the loudspeakers low. Play this made-up cello phrase, walk to the nearest and to
        the farthest seat, turn up until it is comfortable at both, and then leave it where it is.
        Each listener should sit where both loudspeakers are heard alike.
      </p>
      <p className={listening.caution}>
        Loud listening harms hearing, and the harm stays. Ask whether it is too loud for anybody;
        whoever says so is right. Local rules for loud rooms come first.
      </p>
      <button
        className={listening.slip}
        aria-pressed={state.playing}
        onClick={() => (state.playing ? player.pause() : void player.play())}
      >
        {state.playing ? 'Pause' : 'Play'}
      </button>
      {note}
      <div className={styles.actions}>
        <p className={listening.hint}>{played ? '' : 'Play it first.'}</p>
        <button className={styles.second} disabled={busy || !played} onClick={() => goOn(onBegin)}>
          Begin without practice
        </button>
        <button
          className={listening.main}
          disabled={busy || !played}
          onClick={() => goOn(onPractise)}
        >
          Practise one trial
        </button>
      </div>
    </main>
  );
}
