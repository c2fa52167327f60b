import { say } from '../words/en/roadside.ftl';

/** A picture of a display is read at this size, and sends over a thin line [px, bytes]. */
const LONGEST_PX = 1280;
export const MOST_BYTES = 300 * 1024;
const QUALITIES = [0.8, 0.65, 0.5, 0.35];
const SMALLER = [1, 0.75, 0.5];

/**
 * A picture scaled to what is read and drawn anew: what the camera knew of place, time and device is
 * not in it any more. Base64 of a JPEG of at most `MOST_BYTES`.
 */
export async function scaledJpeg(file: Blob): Promise<string> {
  const drawn = await createImageBitmap(file);
  const longest = Math.max(drawn.width, drawn.height);
  for (const smaller of SMALLER) {
    const scale = Math.min((smaller * LONGEST_PX) / longest, 1);
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(Math.round(drawn.width * scale), 1);
    canvas.height = Math.max(Math.round(drawn.height * scale), 1);
    canvas.getContext('2d')?.drawImage(drawn, 0, 0, canvas.width, canvas.height);
    for (const quality of QUALITIES) {
      const blob = await new Promise<Blob | null>((done) =>
        canvas.toBlob(done, 'image/jpeg', quality),
      );
      if (blob && blob.size <= MOST_BYTES) {
        drawn.close();
        return base64(new Uint8Array(await blob.arrayBuffer()));
      }
    }
  }
  drawn.close();
  throw new Error(say('this-picture-cannot-be-made'));
}

const CHUNK = 0x8000;

export function base64(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += CHUNK) {
    text += String.fromCharCode(...bytes.subarray(at, at + CHUNK));
  }
  return btoa(text);
}
