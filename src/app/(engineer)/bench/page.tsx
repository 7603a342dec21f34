import { connection } from 'next/server';
import { z } from 'zod';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { BenchScreen } from '@/steps/bench/ui/BenchScreen';

/** Whatever an address holds: single words of a bounded length, the rest is passed over. */
const query = z.record(z.string(), z.string().max(4000).optional().catch(undefined));

export default async function BenchPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await connection();
  const engineer = await engineerOrSignIn();
  const read = query.parse(await searchParams);
  const given = Object.fromEntries(
    Object.entries(read).filter((entry): entry is [string, string] => entry[1] !== undefined),
  );
  const { tool = '', ...fields } = given;
  return <BenchScreen key={tool} name={engineer.name} toolId={tool} given={fields} />;
}
