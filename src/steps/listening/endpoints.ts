import { z } from 'zod';
import { endpoint, secret } from '@/platform/endpoint';
import { answering, conducting, joining, shortCode, stageDone } from './schema';
import type { ConductorView, ListenerView, OwnAnswers } from './views';

const LISTEN = '/api/listen/[token]';
const CONDUCT = '/api/conduct/[token]';

// The service holds both to their strict shapes (`views.ts`); a listener's page stays light without these.
const listenerView = z.custom<ListenerView>();
const conductorView = z.custom<ConductorView>();
const ownAnswers = z.custom<OwnAnswers>();

/** What a listener's browser can ask, and that of whoever runs a room. */
export const LISTENING = {
  byCode: endpoint('POST', '/api/code', secret, shortCode),
  view: endpoint('GET', `${LISTEN}/view`, listenerView),
  join: endpoint('POST', `${LISTEN}/join`, listenerView, joining),
  addDevice: endpoint('POST', `${LISTEN}/device`, listenerView),
  stageDone: endpoint('POST', `${LISTEN}/stage`, listenerView, stageDone),
  own: endpoint('GET', `${LISTEN}/own`, ownAnswers),
  answer: endpoint('POST', `${LISTEN}/answer`, listenerView, answering),
  conductorView: endpoint('GET', `${CONDUCT}/view`, conductorView),
  move: endpoint('POST', `${CONDUCT}/move`, conductorView, conducting),
};
