import type { Queue } from '@/platform/jobs';
import { analyseSitting } from './analyse-sitting';
import { forecastPanel } from './forecast-panel';
import { inspectTake } from './inspect-take';
import type { Job } from './job';
import { recordTakes } from './record-takes';
import { relateTakes } from './relate-takes';
import { renderClips } from './render-clips';
import { unpackArchive } from './unpack-archive';

/** Every kind of work, by its queue. */
export const JOBS: { [Q in Queue]: Job & { queue: Q } } = {
  'inspect-take': inspectTake,
  'unpack-archive': unpackArchive,
  'relate-takes': relateTakes,
  'record-takes': recordTakes,
  'render-clips': renderClips,
  'analyse-sitting': analyseSitting,
  'forecast-panel': forecastPanel,
};
