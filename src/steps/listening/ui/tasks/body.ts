import { useEffect } from 'react';
import type { Answer } from '@/core/tasks/task';
import type { PlayerState, SyncPlayer } from '@/ui/player/engine';
import type { ListenerView } from '../../views';

/** What the middle of a trial page gets, whatever the task. */
export interface BodyProps {
  part: ListenerView['part'];
  clips: readonly { word: string; url: string }[];
  player: Pick<SyncPlayer, 'pause' | 'select'>;
  state: Pick<PlayerState, 'playing' | 'selected'>;
  /** In a room the conductor plays; slips are only named here. */
  silent?: boolean;
  heard: readonly boolean[];
  /** Whether an answer may be given: everything was heard, and none is on its way. */
  open: boolean;
  answer: Answer | null;
  onAnswer: (answer: Answer) => void;
}

/** Keys of one kind of trial, on top of those that all have. */
export function useKeys(onKey: (key: string) => void): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.altKey || event.ctrlKey || event.metaKey) return;
      const { target } = event;
      if (target instanceof HTMLElement && target.closest('[role=slider], input')) return;
      onKey(event.key);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [onKey]);
}
