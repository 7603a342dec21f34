import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { benchQuery } from '@/steps/memory/schema';
import { proposeBench } from '@/steps/memory/service';
import { BenchProposalScreen } from '@/steps/memory/ui/BenchProposalScreen';

export default async function ShortestBenchPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const { q } = benchQuery.parse(await searchParams);
  return (
    <BenchProposalScreen name={engineer.name} q={q} proposal={await proposeBench(engineer, q)} />
  );
}
