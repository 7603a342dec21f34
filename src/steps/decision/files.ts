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

type Rows = Record<string, string | number | null>[];

function csvFile(fileName: string, rows: Rows): Download {
  return {
    fileName,
    contentType: 'text/csv; charset=utf-8',
    body: `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`,
  };
}

/** Every version by what it says, a line for each use. */
export async function decisionsCsv(engineer: SignedIn, comparisonId: string): Promise<Download> {
  await comparisonOf(engineer, comparisonId);
  const rows = await listDecisions(db(), comparisonId);
  return csvFile(
    `decisions-${comparisonId.slice(0, 8)}.csv`,
    rows.flatMap(({ version, at, record, sha256 }): Rows => {
      const said = lockedRecord.parse(JSON.parse(record));
      return said.uses.map(({ use, verdict, chain }) => ({
        version,
        locked: at.toISOString(),
        use,
        verdict,
        chain,
        'decided by': said.decidedBy,
        reasons: said.reasons.map(({ text, rests }) => `${text} (${rests})`).join(' '),
        'what would change it': said.wouldChange,
        'listen again': said.listenAgain,
        sha256,
      }));
    }),
  );
}

async function markRows(engineer: SignedIn, comparisonId: string): Promise<Rows> {
  const marks = await everyMark(engineer, comparisonId);
  return marks.map((mark) => ({
    of: mark.of,
    name: mark.name,
    criterion: mark.criterion,
    mark: mark.value ?? 'taken back',
    remark: mark.remark,
    by: mark.by,
    at: mark.at.toISOString(),
    'after the reveal': mark.afterReveal ? 'yes' : 'no',
  }));
}

/** Every mark that was ever given, what was changed or taken back included. */
export async function marksCsv(engineer: SignedIn, comparisonId: string): Promise<Download> {
  return csvFile(`marks-${comparisonId.slice(0, 8)}.csv`, await markRows(engineer, comparisonId));
}

export async function marksJson(engineer: SignedIn, comparisonId: string): Promise<Download> {
  const rows = await markRows(engineer, comparisonId);
  return jsonFile(`marks-${comparisonId.slice(0, 8)}.json`, { marks: rows });
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
