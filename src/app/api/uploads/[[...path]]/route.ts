import { Server } from '@tus/server';
import { UserError } from '@/platform/errors';
import { failureOf } from '@/platform/failure';
import { requireSameOrigin } from '@/platform/route';
import { requireEngineer } from '@/platform/sign-in/session';
import { comparisonOf } from '@/steps/comparisons/service';
import { db } from '@/platform/database';
import { uploadMetadata } from '@/steps/takes/schema';
import { findUpload } from '@/steps/takes/store';
import { AudioUploadStore, told } from '@/steps/takes/upload-store';

const PATH = '/api/uploads';

const server = new Server({
  path: PATH,
  relativeLocation: true,
  respectForwardedHeaders: false,
  datastore: new AudioUploadStore(),
  // Only into, and only of, a comparison of one's own.
  async onIncomingRequest(_, uploadId) {
    if (!uploadId) return;
    await told(async () => {
      const engineer = await requireEngineer();
      const upload = await findUpload(db(), uploadId);
      if (upload) await comparisonOf(engineer, upload.comparison_id);
    });
  },
  async onUploadCreate(_, upload) {
    return told(async () => {
      const { comparisonId } = uploadMetadata.parse(upload.metadata);
      await comparisonOf(await requireEngineer(), comparisonId);
      return {};
    });
  },
});

async function handle(request: Request): Promise<Response> {
  try {
    requireSameOrigin(request);
    await requireEngineer();
    return await server.handleWeb(request);
  } catch (error) {
    const { status, message } =
      error instanceof UserError
        ? { status: error.status, message: error.message }
        : failureOf(error);
    return new Response(message, { status });
  }
}

export { handle as HEAD, handle as OPTIONS, handle as PATCH, handle as POST };
