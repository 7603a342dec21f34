import { done, endpoint, made } from '@/platform/endpoint';
import {
  arrivingFile,
  comparisonChange,
  comparisonDraft,
  newPassage,
  passageChange,
} from './schema';

const ONE = '/api/comparisons/[id]';
const PASSAGE = `${ONE}/passages/[passageId]` as const;

/** What can be asked about comparisons and their passages. */
export const COMPARISONS = {
  start: endpoint('POST', '/api/comparisons', made, comparisonDraft),
  bringIn: endpoint('POST', '/api/comparisons/import', made, arrivingFile),
  change: endpoint('PUT', ONE, done, comparisonChange),
  remove: endpoint('DELETE', ONE, done),
  restore: endpoint('POST', `${ONE}/restore`, done),
  copy: endpoint('POST', `${ONE}/copy`, made),
  addPassage: endpoint('POST', `${ONE}/passages`, made, newPassage),
  changePassage: endpoint('PUT', PASSAGE, done, passageChange),
  removePassage: endpoint('DELETE', PASSAGE, done),
  restoreSource: endpoint('POST', `${ONE}/sources/[sourceId]/restore`, done),
};
