'use client';

import { useEffect, useState } from 'react';
import { type PlayerState, type ResetSound, SyncPlayer } from './engine';

interface Current {
  key: string;
  player: SyncPlayer;
  state: PlayerState;
}

/** A player over these addresses, made anew when they change; null until the first sound arrives. */
export function usePlayer(
  urls: readonly string[],
  fetchBytes?: (url: string) => Promise<ArrayBuffer>,
  trims: readonly number[] = [],
  reset: ResetSound = 'none',
): { player: SyncPlayer; state: PlayerState } | null {
  const [current, setCurrent] = useState<Current | null>(null);
  const key = urls.join(' ');
  const trimmed = trims.join(' ');
  useEffect(() => {
    const addresses = key.split(' ').filter((url) => url !== '');
    if (addresses.length === 0) return;
    const player: SyncPlayer = new SyncPlayer(
      addresses,
      (state) => setCurrent({ key, player, state }),
      fetchBytes,
      trimmed === '' ? [] : trimmed.split(' ').map(Number),
      reset,
    );
    void player.load();
    return () => player.dispose();
  }, [key, fetchBytes, trimmed, reset]);
  return current?.key === key ? current : null;
}
