/** A file that is made when somebody asks for it. */
export interface Download {
  fileName: string;
  contentType: string;
  body: string;
}

/** Sent as a file; no browser keeps it. */
export function downloadResponse({ fileName, contentType, body }: Download): Response {
  return new Response(body, {
    headers: {
      'content-type': contentType,
      'content-disposition': `attachment; filename="${fileName}"`,
      'cache-control': 'no-store',
    },
  });
}

export function jsonFile(fileName: string, content: unknown): Download {
  return {
    fileName,
    contentType: 'application/json; charset=utf-8',
    body: JSON.stringify(content, null, 1),
  };
}
