import { baseline } from './baseline';
import { figures } from './figures';
import { files } from './files';
import type { Fold } from './fold';
import { limits } from './limits';
import { links } from './links';
import { listeners } from './listeners';
import { parts } from './parts';
import { places } from './places';
import { predictions } from './predictions';
import { without } from './without';
import { sighted } from './sighted';
import { words } from './words';

/** What can be opened under the first view, in this order. */
export const FOLDS: readonly Fold[] = [
  limits,
  figures,
  places,
  listeners,
  links,
  words,
  baseline,
  predictions,
  sighted,
  without,
  parts,
  files,
];
