import type { BodyProps } from './body';
import { ChoiceBody } from './ChoiceBody';
import { LineBody } from './LineBody';
import { LearningBody, MemoryBody } from './MemoryBody';
import { WordsBody } from './WordsBody';

/** The middle of a trial, by its task. */
export function TaskBody(props: BodyProps) {
  switch (props.part.task) {
    case 'pair':
    case 'two-interval':
    case 'duo-trio':
    case 'triangle':
      return <ChoiceBody {...props} />;
    case 'line':
    case 'reference':
      return <LineBody {...props} />;
    case 'memory':
      return props.part.learning ? <LearningBody {...props} /> : <MemoryBody {...props} />;
    case 'words':
      return <WordsBody {...props} />;
  }
}
