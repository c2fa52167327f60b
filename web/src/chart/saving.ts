import { say } from '../words/en/chart.ftl';
import { pngOf, svgOf } from './picture';
import { csvOf, type Values } from './values';

export type Act = 'png' | 'svg' | 'csv' | 'copy' | 'share';

/**
 * Save, copy or share a drawing.
 *
 * @returns what to tell the reader; null where the browser's own sheet or its download says it
 */
export async function carryOut(
  act: Act,
  svg: SVGSVGElement,
  name: string,
  values: Values,
): Promise<string | null> {
  const file = fileName(name);
  if (act === 'csv')
    return download(new Blob([csvOf(values)], { type: 'text/csv' }), `${file}.csv`);
  if (act === 'svg') {
    const text = await svgOf(svg, name);
    return download(new Blob([text], { type: 'image/svg+xml' }), `${file}.svg`);
  }
  const png = await pngOf(await svgOf(svg, name));
  if (act === 'png') return download(png, `${file}.png`);
  if (act === 'share') return sharePicture(png, `${file}.png`, name);
  await navigator.clipboard.write([new ClipboardItem({ 'image/png': png })]);
  return say('the-picture-is-copied');
}

/** A picture through the device's own sheet; called off by the reader is no fault. */
export async function sharePicture(png: Blob, file: string, title: string): Promise<null> {
  const picture = new File([png], file, { type: 'image/png' });
  try {
    await navigator.share({ files: [picture], title });
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError')) throw error;
  }
  return null;
}

/** Hand a file to the browser's downloads. */
export function download(blob: Blob, file: string): null {
  const address = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = address;
  link.download = file;
  link.click();
  // The browser has read it by the next turn of its loop.
  setTimeout(() => URL.revokeObjectURL(address), 0);
  return null;
}

/** A name that every file system takes. */
export function fileName(name: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase();
  return `limpet-${plain.slice(0, 60) || 'drawing'}`;
}
