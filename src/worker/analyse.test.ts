import { MessageChannel, receiveMessageOnPort } from 'node:worker_threads';
import type { SignedIn } from '@/platform/sign-in/service';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { analysisOrder } from '@/steps/results/service';
import { answeredSitting } from '@/steps/test/answered';
import { bankWithClips } from '@/steps/test/bank';
import { analyseSitting } from './tasks';

withTestDatabase();

let engineer: SignedIn;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
});

/** What was told while a sitting of two parts was read, with so many whom its rule sets aside. */
async function sharesTold(aside: number): Promise<unknown[]> {
  const { comparisonId, chainIds } = await bankWithClips(engineer);
  const sittingId = await answeredSitting(engineer, comparisonId, {
    aliases: ['a', 'b', 'c'],
    liking: chainIds,
    parts: [{}, {}],
  });
  const order = await analysisOrder(sittingId);
  if (!order) throw new Error('there is nothing to read');
  const [first] = order.parts[0]!.observations;
  const gone = aside === 0 ? [] : [{ listener: first!.listener, grounds: [] }];
  const { port1, port2 } = new MessageChannel();
  const made = analyseSitting({ ...order, aside: gone, progress: port2 });
  expect(made.parts).toHaveLength(2);
  const shares: unknown[] = [];
  for (let one = receiveMessageOnPort(port1); one; one = receiveMessageOnPort(port1)) {
    shares.push(one.message);
  }
  port1.close();
  return shares;
}

it('tells how far it is: all together, then part by part', async () => {
  expect(await sharesTold(0)).toEqual([1 / 3, 2 / 3, 1]);
});

it('reads twice, and tells so, where the sealed rule sets somebody aside', async () => {
  expect(await sharesTold(1)).toEqual([1 / 6, 2 / 6, 3 / 6, 4 / 6, 5 / 6, 1]);
});
