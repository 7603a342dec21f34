import QRCode from 'qrcode';
import { isLoopback } from '@/platform/hosts';
import { origin } from '@/platform/origin';
import { type ComparisonParams, readPage } from '@/platform/page';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { sittingsOf } from '@/steps/sitting/service';
import { type Invitation, SittingScreen } from '@/steps/sitting/ui/SittingScreen';

export default async function Page(props: ComparisonParams) {
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await sittingsOf(engineer, id),
  }));
  const base = await origin();
  const invitations: Record<string, Invitation> = {};
  for (const { id, token, state } of view.sittings) {
    if (state !== 'open') continue;
    const listenPage = `${base}/listen`;
    const link = `${listenPage}/${token}`;
    const svg = await QRCode.toString(link, { type: 'svg', margin: 1 });
    invitations[id] = {
      link,
      listenPage,
      qr: `data:image/svg+xml,${encodeURIComponent(svg)}`,
      conductPage: `${base}/conduct`,
      loopback: isLoopback(new URL(base).host),
    };
  }
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="sitting">
      <SittingScreen view={view} invitations={invitations} />
    </ComparisonFrame>
  );
}
