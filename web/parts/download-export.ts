import { EXPORT_FORMATS, type ExportSpec } from '../../core/index.ts';
import { downloadFile, fileName } from './files.ts';

/** Hands an export to the browser's downloads; several files come as an archive. */
export function downloadExport(name: string, spec: ExportSpec, bytes: BlobPart, several: boolean): void {
  const { ending, type, many } = EXPORT_FORMATS[spec.as];
  const archive = several && many !== true;
  downloadFile(`${fileName(name)}.${archive ? 'zip' : ending}`, archive ? 'application/zip' : type, bytes);
}
