import type { ComponentType, ReactNode } from 'react';
import type { ListenerView } from '../../views';
import type { BodyProps } from './body';

type Part = ListenerView['part'];

/** How one task looks to listeners. */
export interface TaskUi {
  /** The middle of a trial. */
  Body: ComponentType<BodyProps>;
  /** Its keys, in a line. */
  keys: (clips: number, tiesAllowed: boolean) => ReactNode;
  /** What is practised, in a sentence or two. */
  practice: string;
  /** What is still to do once all was heard. */
  ask: string;
  /** Word of the recording that an answer means, where it is not the slip's own. */
  meant?: (part: Part, slot: number) => string;
}
