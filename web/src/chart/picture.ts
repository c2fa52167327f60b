import { say } from '../words/en/chart.ftl';

/** What a drawing's look is made of; a saved one has no style sheet beside it. */
const LOOK = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-opacity',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'font-variant-numeric',
  'letter-spacing',
  'paint-order',
];

/** Room about a saved drawing [px]. */
const MARGIN = 16;
const HEAD = 34;
const XMLNS = 'http://www.w3.org/2000/svg';

/**
 * A drawing as a file of its own: looks written into it, fonts with it, its name above it.
 *
 * @param svg the drawing as it stands on the page
 * @param name what it is called
 */
export async function svgOf(svg: SVGSVGElement, name: string): Promise<string> {
  const { width, height } = svg.viewBox.baseVal;
  const body = styled(svg);
  body.setAttribute('x', String(MARGIN));
  body.setAttribute('y', String(HEAD));
  body.setAttribute('width', String(width));
  body.setAttribute('height', String(height));
  const look = getComputedStyle(svg);
  const voice = (name: string) => look.getPropertyValue(name).trim();
  const sheet = document.createElementNS(XMLNS, 'svg');
  const [wide, tall] = [width + 2 * MARGIN, height + HEAD + MARGIN];
  sheet.setAttribute('xmlns', XMLNS);
  sheet.setAttribute('viewBox', `0 0 ${wide} ${tall}`);
  sheet.setAttribute('width', String(wide));
  sheet.setAttribute('height', String(tall));
  const paper = document.createElementNS(XMLNS, 'rect');
  paper.setAttribute('width', '100%');
  paper.setAttribute('height', '100%');
  paper.setAttribute('fill', voice('--paper') || 'white');
  const title = document.createElementNS(XMLNS, 'text');
  title.setAttribute('x', String(MARGIN));
  title.setAttribute('y', '23');
  title.setAttribute(
    'style',
    `font-family:${look.fontFamily};font-size:15px;font-weight:650;fill:${voice('--ink') || 'black'}`,
  );
  title.textContent = name;
  sheet.append(await faces(`${name}${svg.textContent ?? ''}`), paper, title, body);
  return new XMLSerializer().serializeToString(sheet);
}

/** A drawing that is a picture already, as a file of its own: looks and fonts with it, nothing about it. */
export async function wholeSvg(svg: SVGSVGElement): Promise<string> {
  const { width, height } = svg.viewBox.baseVal;
  const body = styled(svg);
  body.setAttribute('xmlns', XMLNS);
  body.setAttribute('width', String(width));
  body.setAttribute('height', String(height));
  body.prepend(await faces(svg.textContent ?? ''));
  return new XMLSerializer().serializeToString(body);
}

async function faces(text: string): Promise<SVGStyleElement> {
  const found = document.createElementNS(XMLNS, 'style');
  found.textContent = await fontFaces(text);
  return found;
}

/** The drawing with its computed looks as attributes. */
function styled(svg: SVGSVGElement): SVGSVGElement {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const from = [svg, ...svg.querySelectorAll('*')];
  const to = [copy, ...copy.querySelectorAll('*')];
  for (const [index, element] of from.entries()) {
    const look = getComputedStyle(element);
    const text = LOOK.map((name) => `${name}:${look.getPropertyValue(name)}`).join(';');
    to[index]?.setAttribute('style', text);
    to[index]?.removeAttribute('class');
  }
  for (const passing of copy.querySelectorAll('[data-cursor], title')) passing.remove();
  return copy;
}

/** The page's own fonts, as far as the text needs them, in the file itself. */
async function fontFaces(text: string): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) =>
    [...sheet.cssRules].filter((rule): rule is CSSFontFaceRule => rule instanceof CSSFontFaceRule),
  );
  const needed = rules.filter((rule) => covers(rule.style.getPropertyValue('unicode-range'), text));
  const found = needed.map(async (rule) => {
    const address = /url\("?([^")]+)"?\)/.exec(rule.style.getPropertyValue('src'))?.[1];
    if (address === undefined) return '';
    const base = rule.parentStyleSheet?.href ?? location.href;
    const answer = await fetch(new URL(address, base));
    if (!answer.ok) throw new Error(say('a-font-did-not-come'));
    const data = await dataAddress(await answer.blob());
    const family = rule.style.getPropertyValue('font-family');
    const weight = rule.style.getPropertyValue('font-weight');
    const range = rule.style.getPropertyValue('unicode-range');
    return `@font-face{font-family:${family};font-weight:${weight};src:url(${data});unicode-range:${range || 'U+0-10FFFF'}}`;
  });
  return (await Promise.all(found)).join('');
}

/** Whether a range such as "U+0-FF, U+131" holds a character of the text. */
export function covers(range: string, text: string): boolean {
  if (range.trim() === '') return true;
  const spans = [...range.matchAll(/U\+([0-9A-F]+)(?:-([0-9A-F]+))?/gi)].map(([, from, to]) => {
    const low = Number.parseInt(from ?? '0', 16);
    return [low, to === undefined ? low : Number.parseInt(to, 16)] as const;
  });
  return [...text].some((sign) => {
    const code = sign.codePointAt(0) ?? 0;
    return spans.some(([low, high]) => code >= low && code <= high);
  });
}

function dataAddress(blob: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error ?? new Error(say('the-file-could-not-be')));
    reader.readAsDataURL(blob);
  });
}

/** Twice as many pixels as points: sharp on a phone and in a document. */
const DENSE = 2;

/** An SVG drawn as a PNG on this device. */
export async function pngOf(svg: string, dense = DENSE): Promise<Blob> {
  const image = new Image();
  const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    image.src = address;
    await image.decode();
    const canvas = document.createElement('canvas');
    canvas.width = Math.round(image.naturalWidth * dense);
    canvas.height = Math.round(image.naturalHeight * dense);
    const pen = canvas.getContext('2d');
    if (pen === null) throw new Error(say('this-browser-draws-no-pictures'));
    pen.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise<Blob>((resolve, reject) =>
      canvas.toBlob(
        (blob) => (blob ? resolve(blob) : reject(new Error(say('the-picture-is-empty')))),
        'image/png',
      ),
    );
  } finally {
    URL.revokeObjectURL(address);
  }
}
