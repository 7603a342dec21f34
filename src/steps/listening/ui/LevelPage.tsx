'use client';

import { type ReactNode, useState } from 'react';
import { usePlayer } from '@/ui/player/usePlayer';
import styles from './listening.module.css';
import { Loading } from './Loading';

/** The level is set once, on a passage that belongs to no trial. */
export function LevelPage({
  clip,
  fetchBytes,
  note,
  onDone,
}: {
  clip: { url: string };
  fetchBytes: (url: string) => Promise<ArrayBuffer>;
  note: ReactNode;
  onDone: () => Promise<void>;
}) {
  const current = usePlayer([clip.url], fetchBytes);
  const [busy, setBusy] = useState(false);
  if (!current?.state.ready) return <Loading state={current?.state ?? null} />;
  const { player, state } = current;
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>Set your level once</h1>
      <p className={styles.lead}>
        Start with the volume low. Play this made-up cello phrase, turn up until it is comfortable,
        and then leave the volume where it is.
      </p>
      <p className={styles.caution}>
        Loud listening harms hearing, and the harm stays. If your ears ring or tire, turn down and
        pause.
      </p>
      <button
        className={styles.slip}
        aria-pressed={state.playing}
        onClick={() => (state.playing ? player.pause() : void player.play())}
      >
        {state.playing ? 'Pause' : 'Play'}
      </button>
      {note}
      <div className={styles.foot}>
        <button
          className={styles.main}
          disabled={busy || state.heardS[0]! < 1}
          onClick={() => {
            setBusy(true);
            player.pause();
            void onDone().finally(() => setBusy(false));
          }}
        >
          The level is comfortable
        </button>
        {state.heardS[0]! < 1 && <p className={styles.hint}>Play it first.</p>}
      </div>
    </main>
  );
}
