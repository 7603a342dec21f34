import type { Answer } from '@/core/tasks/task';
import type { PlayerState, SyncPlayer } from '@/ui/player/engine';
import { isWriting, useShortcuts } from '@/ui/useShortcuts';
import type { ListenerView } from '../../views';

/** What the middle of a trial page gets, whatever the task. */
export interface BodyProps {
  part: ListenerView['part'];
  clips: readonly { word: string; url: string; note?: string }[];
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

/** Arrows on a slider move it, and nothing else. */
const isMoving = (event: KeyboardEvent) =>
  isWriting(event) ||
  (event.target instanceof Element && event.target.closest('[role=slider], input') !== null);

/** Keys of one kind of trial, on top of those that all have. */
export function useKeys(keys: Readonly<Record<string, () => void>>): void {
  useShortcuts(keys, isMoving);
}
