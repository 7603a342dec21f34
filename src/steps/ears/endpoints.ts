import { done, endpoint, found, secret } from '@/platform/endpoint';
import { earAnswer, ended, sessionDraft, sharing, soundDraft, testDraft, training } from './schema';

const TRAIN = '/api/train/[token]';

/** Training of whoever is signed in, and what the studio sets up for its panel. */
export const EARS = {
  view: endpoint('GET', '/api/ears', training),
  begin: endpoint('POST', '/api/ears', training, sessionDraft),
  answer: endpoint('POST', '/api/ears/answers', done, earAnswer),
  end: endpoint('POST', '/api/ears/end', training, ended),
  addTest: endpoint('POST', '/api/ears/tests', done, testDraft),
  removeTest: endpoint('DELETE', '/api/ears/tests/[testId]', done),
  addSound: endpoint('POST', '/api/ears/sounds', done, soundDraft),
  removeSound: endpoint('DELETE', '/api/ears/sounds/[soundId]', done),
  people: endpoint('GET', '/api/ears/people', found),
  link: endpoint('POST', '/api/panel/[panelistId]/training', secret),
};

/** Training of somebody of the panel, by a link of their own. */
export const TRAINING = {
  view: endpoint('GET', `${TRAIN}/view`, training),
  begin: endpoint('POST', `${TRAIN}/begin`, training, sessionDraft),
  answer: endpoint('POST', `${TRAIN}/answers`, done, earAnswer),
  end: endpoint('POST', `${TRAIN}/end`, training, ended),
  share: endpoint('PUT', `${TRAIN}/shares`, training, sharing),
};
