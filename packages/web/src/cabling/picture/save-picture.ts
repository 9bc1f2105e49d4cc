import { saveFile } from '../../parts/save-file.ts';

const looks = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'font-family',
  'font-size',
  'font-weight',
  'opacity',
];

/** The picture as a file of its own: what a style sheet gave it stands at each part. */
export function svgText(
  svg: SVGSVGElement,
  { width, height }: { readonly width: number; readonly height: number },
): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const parts = [...copy.querySelectorAll<SVGElement>('*')];
  for (const [at, original] of [...svg.querySelectorAll<SVGElement>('*')].entries()) {
    const style = getComputedStyle(original);
    for (const look of looks) parts[at]?.style.setProperty(look, style.getPropertyValue(look));
  }
  copy.querySelector('[data-moved]')?.removeAttribute('transform');
  copy.setAttribute('viewBox', `-20 -20 ${width + 40} ${height + 40}`);
  copy.setAttribute('width', String(width + 40));
  copy.setAttribute('height', String(height + 40));
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.style.background = getComputedStyle(svg).backgroundColor;
  return new XMLSerializer().serializeToString(copy);
}

/** The same as dots, twice as fine as on screen. Throws where the browser cannot draw it. */
export async function savePng(name: string, text: string, { width, height }: { width: number; height: number }) {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  // browsers draw nothing beyond about 16,000 dots
  const scale = Math.min(2, 15_000 / Math.max(width + 40, height + 40));
  canvas.width = (width + 40) * scale;
  canvas.height = (height + 40) * scale;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  if (blob) saveFile(name, blob, 'image/png');
}
