'use client';

import { type ReactNode, useState } from 'react';
import { useTranslations } from 'use-intl';
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
  const t = useTranslations('listening');
  const current = usePlayer([clip.url], fetchBytes);
  const [busy, setBusy] = useState(false);
  if (!current?.state.ready) return <Loading state={current?.state ?? null} />;
  const { player, state } = current;
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>{t('level.heading')}</h1>
      <p className={styles.lead}>{t('level.lead')}</p>
      <p className={styles.caution}>{t('level.caution')}</p>
      <button
        className={styles.slip}
        aria-pressed={state.playing}
        onClick={() => (state.playing ? player.pause() : void player.play())}
      >
        {state.playing ? t('level.pause') : t('level.play')}
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
          {t('level.done')}
        </button>
        {state.heardS[0]! < 1 && <p className={styles.hint}>{t('level.playFirst')}</p>}
      </div>
    </main>
  );
}
