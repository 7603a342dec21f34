'use client';

import { useEffect, useRef, useState } from 'react';
import { INSIST } from './NamedListening';

/** One sound at a time, asked for by its address when it is pressed. */
export interface OneSound {
  /** Address of what sounds. */
  playing: string | null;
  /** Address of what is not played while a panel is asked about it. */
  shut: string | null;
  /** Plays it, or stops it where it sounds. */
  toggle: (url: string) => void;
  /** Plays what is shut all the same. */
  insist: () => void;
  stop: () => void;
}

export function useOneSound(): OneSound {
  const [playing, setPlaying] = useState<string | null>(null);
  const [shut, setShut] = useState<string | null>(null);
  const audio = useRef<HTMLAudioElement | null>(null);
  useEffect(() => () => audio.current?.pause(), []);
  const stop = () => {
    audio.current?.pause();
    audio.current = null;
    setPlaying(null);
  };
  const play = (url: string, insists: boolean) => {
    stop();
    const made = new Audio(`${url}${insists ? INSIST : ''}`);
    made.onended = stop;
    audio.current = made;
    setPlaying(url);
    setShut(null);
    void made.play().catch(() => {
      if (audio.current !== made) return;
      if (!insists) setShut(url);
      stop();
    });
  };
  return {
    playing,
    shut,
    stop,
    toggle: (url) => (playing === url ? stop() : play(url, false)),
    insist: () => shut !== null && play(shut, true),
  };
}
