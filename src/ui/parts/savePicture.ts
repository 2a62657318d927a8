/** Picture elements are drawn so many times as large as they stand on the page. */
const scale = 2;

/** Saves what is drawn in an element, an SVG or a canvas, as a PNG on the disk of whoever looks at the page. */
export async function savePicture(name: string, inside: HTMLElement): Promise<void> {
  const canvas = inside.querySelector('canvas');
  const svg = inside.querySelector('svg');
  const sheet = canvas ? onPaper(canvas, canvas.width, canvas.height) : svg ? await drawn(svg) : undefined;
  const blob = await new Promise<Blob | null>((resolve) => (sheet ? sheet.toBlob(resolve, 'image/png') : resolve(null)));
  if (!blob) return;
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** A picture on the ground of the page; what is drawn is transparent beside its lines. */
function onPaper(picture: CanvasImageSource, width: number, height: number): HTMLCanvasElement {
  const sheet = document.createElement('canvas');
  sheet.width = width;
  sheet.height = height;
  const pen = sheet.getContext('2d');
  if (pen) {
    pen.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--sheet').trim() || 'white';
    pen.fillRect(0, 0, width, height);
    pen.drawImage(picture, 0, 0, width, height);
  }
  return sheet;
}

/** An SVG outside its page knows no custom properties: they are written out first. */
async function drawn(svg: SVGSVGElement): Promise<HTMLCanvasElement> {
  const { width, height } = svg.getBoundingClientRect();
  const style = getComputedStyle(document.documentElement);
  const text = new XMLSerializer()
    .serializeToString(svg)
    .replace(/var\((--[\w-]+)\)/g, (_, property: string) => style.getPropertyValue(property).trim());
  const image = new Image();
  image.width = width;
  image.height = height;
  const loaded = new Promise((resolve, reject) => {
    image.onload = resolve;
    image.onerror = () => reject(new Error('the picture could not be drawn'));
  });
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text.replace('<svg', `<svg width="${width}" height="${height}"`))}`;
  await loaded;
  return onPaper(image, width * scale, height * scale);
}
