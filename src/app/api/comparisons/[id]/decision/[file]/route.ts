import { z } from 'zod';
import { downloadResponse } from '@/platform/download';
import { notFound } from '@/platform/errors';
import { failureResponse } from '@/platform/route';
import { requireEngineer } from '@/platform/sign-in/session';
import { uuid } from '@/steps/comparisons/schema';
import {
  calendarFile,
  decisionsCsv,
  decisionsJson,
  marksCsv,
  marksJson,
} from '@/steps/decision/files';

const FILES = {
  'decisions.json': decisionsJson,
  'decisions.csv': decisionsCsv,
  'marks.csv': marksCsv,
  'marks.json': marksJson,
  'listen-again.ics': calendarFile,
};
const address = z.object({ id: uuid, file: z.string() });

/** What a decision leaves: every version as it was locked, every mark, and the day to listen again. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; file: string }> },
) {
  try {
    const engineer = await requireEngineer();
    const { id, file } = address.parse(await params);
    if (!Object.hasOwn(FILES, file)) throw notFound('file');
    return downloadResponse(await FILES[file as keyof typeof FILES](engineer, id));
  } catch (error) {
    return failureResponse(error);
  }
}
