import { headers } from 'next/headers';
import QRCode from 'qrcode';
import { type ComparisonParams, readPage } from '@/platform/page';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { sittingsOf } from '@/steps/sitting/service';
import { SittingScreen } from '@/steps/sitting/ui/SittingScreen';

/** The address under which this page was asked for, for links that others open. */
async function origin(): Promise<string> {
  const asked = await headers();
  const host = asked.get('x-forwarded-host') ?? asked.get('host') ?? 'localhost';
  return `${asked.get('x-forwarded-proto') ?? 'http'}://${host}`;
}

export default async function Page(props: ComparisonParams) {
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await sittingsOf(engineer, id),
  }));
  const base = await origin();
  const invitations: Record<string, { link: string; qr: string }> = {};
  for (const { id, token, state } of view.sittings) {
    if (state !== 'open') continue;
    const link = `${base}/listen/${token}`;
    const svg = await QRCode.toString(link, { type: 'svg', margin: 1 });
    invitations[id] = { link, qr: `data:image/svg+xml,${encodeURIComponent(svg)}` };
  }
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="sitting">
      <SittingScreen view={view} invitations={invitations} />
    </ComparisonFrame>
  );
}
