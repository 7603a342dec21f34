import type { ComponentType } from 'react';
import type { ListenerView } from '../../views';
import type { BodyProps } from './body';
import type { KeysProps } from './keys';

type Part = ListenerView['part'];

/** How one task looks to listeners; what it says stands under its id in the messages of each language. */
export interface TaskUi {
  /** The middle of a trial. */
  Body: ComponentType<BodyProps>;
  /** Its keys, in a line. */
  Keys: ComponentType<KeysProps>;
  /** What is still to do once all was heard. */
  ask: 'choose' | 'place' | 'tick';
  /** Word of the recording that an answer means, where it is not the slip's own. */
  meant?: (part: Part, slot: number) => string;
}
