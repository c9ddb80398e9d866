/** A small PDF (ISO 32000-2): text in two fonts that every reader has, so that the same pages always give the same bytes. */

export interface Print {
  text: string;
  /** Points from the left edge, to the beginning of the text or, for figures, to its end. */
  x: number;
  /** Points from the upper edge, to what letters stand on. */
  y: number;
  size: number;
  bold?: boolean;
  /** Digits and their marks, put so that they end at x. */
  right?: boolean;
}

export const PAGE = { width: 595, height: 842 };

/** Widths of Helvetica, in thousandths of its size, by its published metrics: all digits are alike. */
const NARROW = 278;
const DIGIT = 556;

function widthOfFigure(text: string, size: number): number {
  let width = 0;
  for (const letter of text) width += /\d/.test(letter) ? DIGIT : letter === '-' ? 333 : NARROW;
  return (width * size) / 1000;
}

function literal(text: string): string {
  return text.replace(/[\\()]/g, '\\$&');
}

/** @param pages what is printed on each, in Windows-1252 */
export function pdfBytes(pages: readonly (readonly Print[])[]): Uint8Array {
  const objects: string[] = [];
  const add = (body: string) => objects.push(body);
  const kids = pages.map((_, k) => `${5 + k * 2} 0 R`).join(' ');
  add('<< /Type /Catalog /Pages 2 0 R >>');
  add(`<< /Type /Pages /Kids [${kids}] /Count ${pages.length} /MediaBox [0 0 ${PAGE.width} ${PAGE.height}] >>`);
  for (const font of ['Helvetica', 'Helvetica-Bold'])
    add(`<< /Type /Font /Subtype /Type1 /BaseFont /${font} /Encoding /WinAnsiEncoding >>`);
  pages.forEach((page, k) => {
    const drawn = page
      .map(({ text, x, y, size, bold = false, right = false }) => {
        const left = right ? x - widthOfFigure(text, size) : x;
        return `BT /F${bold ? 2 : 1} ${size} Tf 1 0 0 1 ${left.toFixed(2)} ${(PAGE.height - y).toFixed(2)} Tm (${literal(text)}) Tj ET`;
      })
      .join('\n');
    add(`<< /Type /Page /Parent 2 0 R /Resources << /Font << /F1 3 0 R /F2 4 0 R >> >> /Contents ${6 + k * 2} 0 R >>`);
    add(`<< /Length ${drawn.length} >>\nstream\n${drawn}\nendstream`);
  });
  let text = '%PDF-1.7\n';
  const places = objects.map((body, k) => {
    const at = text.length;
    text += `${k + 1} 0 obj\n${body}\nendobj\n`;
    return at;
  });
  const start = text.length;
  const table = places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
  return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
}
