/** Adding a recording: sent in parts, so that progress is known and a lost connection costs one part. */
import { Refusal, Unreachable, answered, api, raw } from "./client";
import type { Recording, Upload } from "./types";

const TRIES = 6;

export interface UploadOptions {
  seenBy: string;
  signal: AbortSignal;
  onProgress: (share: number) => void;
}

/** Send a file and return the recording it became. Cancelling, or a refusal, leaves nothing behind. */
export async function uploadRecording(file: File, options: UploadOptions): Promise<Recording> {
  const { upload, chunk } = await answered<Upload>(
    api.POST("/api/uploads", { body: { size: file.size, name: file.name } }),
  );
  try {
    for (let offset = 0; offset < file.size; offset += chunk) {
      await sendPart(upload, offset, file.slice(offset, offset + chunk), options.signal);
      options.onProgress(Math.min(1, (offset + chunk) / file.size));
    }
    const path = { params: { path: { upload } }, body: { name: file.name, seen_by: options.seenBy } };
    const finish = () => answered<Recording>(api.POST("/api/uploads/{upload}/finish", path));
    return await insisting(finish);
  } catch (problem) {
    void raw(`/api/uploads/${upload}`, { method: "DELETE" }).catch(() => undefined);
    throw problem;
  }
}

function sendPart(upload: string, offset: number, part: Blob, signal: AbortSignal): Promise<Response> {
  const headers = { "Content-Type": "application/octet-stream" };
  return insisting(() =>
    raw(`/api/uploads/${upload}/${offset}`, { method: "PUT", body: part, signal, headers }),
  );
}

/** Tried again while the server is away or has troubles of its own; what arrives twice counts once. */
async function insisting<T>(send: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await send();
    } catch (problem) {
      const passing = problem instanceof Unreachable || (problem instanceof Refusal && !problem.final);
      if (!passing || attempt === TRIES) throw problem;
      await new Promise((done) => setTimeout(done, 500 * attempt));
    }
  }
}
