import { putAudio } from '@/platform/audio-store';
import { transaction } from '@/platform/database';
import { type BenchJob, benchJobs, failBench, keepBenchTakes } from '@/steps/takes/recording-bench';
import type { Job } from './job';

export const recordTakes = {
  queue: 'record-takes',
  run: async (orderId, inThread, report) => {
    const order = await benchJobs(orderId);
    if (!order) return;
    const recorded: { job: BenchJob; audioId: number }[] = [];
    await Promise.all(
      order.jobs.map(async (job) => {
        const bytes = await inThread<Uint8Array>('recordOnBench', job);
        const audioId = await transaction((tx) => putAudio(tx, bytes, new Date()));
        recorded.push({ job, audioId });
        report(recorded.length / order.jobs.length);
      }),
    );
    const inOrder = order.jobs.flatMap((job) => recorded.find((one) => one.job === job) ?? []);
    await keepBenchTakes(orderId, order.comparisonId, inOrder, new Date());
  },
  giveUp: (tx, orderId) => failBench(tx, orderId),
} as const satisfies Job;
