/** Taking in a picture or document. */
import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { useAttempt } from "../lib/useAttempt";

/** Largest picture or document, bytes; the server refuses more. */
const LIMIT = 2 * 1024 * 1024;

/** What a file holds, as base64. */
export async function base64Of(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let binary = "";
  for (let at = 0; at < bytes.length; at += 0x8000) binary += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  return btoa(binary);
}

export function useUpload() {
  const { says, setSays, attempt } = useAttempt();
  const upload = async (file: File): Promise<Schemas["KeptMedium"] | null> => {
    if (file.size > LIMIT) {
      setSays(`A picture or document has at most 2 MB; this one has ${(file.size / 1_048_576).toFixed(1)} MB.`);
      return null;
    }
    const content = await base64Of(file);
    return attempt(() => ask(client.POST("/api/media", { body: { content } })));
  };
  return { upload, says };
}
