import { z } from 'zod';
import { downloadResponse } from '@/platform/download';
import { notFound } from '@/platform/errors';
import { recordAlone } from '@/platform/events/service';
import { failureResponse } from '@/platform/route';
import { requireRight } from '@/platform/sign-in/session';
import { uuid } from '@/steps/comparisons/schema';
import {
  analysisJson,
  answersCsv,
  answersJson,
  broughtFile,
  keyFile,
  script,
} from '@/steps/results/service';
import { verdictHtml } from '@/steps/results/verdict/service';

const FILES = {
  'key.json': keyFile,
  'answers.csv': answersCsv,
  'brought-in.csv': broughtFile,
  'answers.json': answersJson,
  'analysis.json': analysisJson,
  'verdict.html': verdictHtml,
  'headline.py': script('headline.py', 'text/x-python'),
  'headline.R': script('headline.R', 'text/x-r'),
};
const address = z.object({ id: uuid, sittingId: uuid, file: z.string() });

/** What a closed sitting leaves: its key exactly as sealed, all answers, the analysis. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; sittingId: string; file: string }> },
) {
  try {
    const engineer = await requireRight('read');
    const { id, sittingId, file } = address.parse(await params);
    if (!Object.hasOwn(FILES, file)) throw notFound('file');
    const made = await FILES[file as keyof typeof FILES](engineer, id, sittingId);
    await recordAlone(engineer, 'exported', { about: file, comparisonId: id }, new Date());
    return downloadResponse(made);
  } catch (error) {
    return failureResponse(error);
  }
}
