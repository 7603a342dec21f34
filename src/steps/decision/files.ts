import { createEvent, type DateArray } from 'ics';
import Papa from 'papaparse';
import { FORMULA } from '@/core/text/formulae';
import { db } from '@/platform/database';
import { type Download, jsonFile } from '@/platform/download';
import { notFound, UserError } from '@/platform/errors';
import type { SignedIn } from '@/platform/sign-in/service';
import { comparisonOf } from '@/steps/comparisons/service';
import { everyMark } from './service';
import { lockedRecord } from './schema';
import { listDecisions } from './store';

/** Every version; `text` is what was hashed, so that anybody can hash it again. */
export async function decisionsJson(engineer: SignedIn, comparisonId: string): Promise<Download> {
  const { title } = await comparisonOf(engineer, comparisonId);
  const rows = await listDecisions(db(), comparisonId);
  return jsonFile(`decisions-${comparisonId.slice(0, 8)}.json`, {
    comparison: title,
    decisions: rows.map(({ version, at, by, record, sha256 }) => ({
      version,
      at,
      by,
      sha256,
      text: record,
    })),
  });
}

/** Every mark that was ever given, what was changed or taken back included. */
export async function marksCsv(engineer: SignedIn, comparisonId: string): Promise<Download> {
  const marks = await everyMark(engineer, comparisonId);
  const rows = marks.map((mark) => ({
    of: mark.of,
    name: mark.name,
    criterion: mark.criterion,
    mark: mark.value ?? 'taken back',
    remark: mark.remark,
    by: mark.by,
    at: mark.at.toISOString(),
    'after the reveal': mark.afterReveal ? 'yes' : 'no',
  }));
  return {
    fileName: `marks-${comparisonId.slice(0, 8)}.csv`,
    contentType: 'text/csv; charset=utf-8',
    body: `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`,
  };
}

/** The day to listen again, for a calendar (RFC 5545). */
export async function calendarFile(engineer: SignedIn, comparisonId: string): Promise<Download> {
  const { title } = await comparisonOf(engineer, comparisonId);
  const [newest] = await listDecisions(db(), comparisonId);
  if (!newest) throw notFound('decision');
  const { listenAgain, uses } = lockedRecord.parse(JSON.parse(newest.record));
  if (!listenAgain) throw new UserError(409, 'The newest decision names no day to listen again.');
  const { error, value } = createEvent({
    uid: `${comparisonId}-${newest.version}@zeitbank`,
    productId: 'zeitbank',
    title: `Listen again: ${title}`,
    description: uses
      .map(({ use, verdict, chain }) => `${use}: ${chain ? `${chain}, ` : ''}${verdict}`)
      .join('\n'),
    start: listenAgain.split('-').map(Number) as DateArray,
    duration: { days: 1 },
  });
  if (error || !value) throw error ?? new Error('no calendar file was made');
  return {
    fileName: 'listen-again.ics',
    contentType: 'text/calendar; charset=utf-8',
    body: value,
  };
}
