/** The small parts of a workbook (ISO/IEC 29500-1, 18.2 and 18.8; 29500-2 for the package). */
import { escapeXml } from './shared-texts.ts';

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const CONTENT = 'application/vnd.openxmlformats-officedocument.spreadsheetml';

/** Formats of cells, by the index that cells have for them. */
const STYLES = ['plain', 'date', 'datetime', 'time', 'header'] as const;

export function styleOf(style: (typeof STYLES)[number]): number {
  return STYLES.indexOf(style);
}

/** The first number of formats that are not built in. */
const FIRST_FORMAT = 164;
export const DATE_FORMATS = { date: 'yyyy-mm-dd', datetime: 'yyyy-mm-dd hh:mm:ss', time: 'hh:mm:ss' };

export interface SheetPart {
  name: string;
  /** Cells that a filter stands over. */
  filter: string | undefined;
}

export function sheetPath(k: number): string {
  return `xl/worksheets/sheet${k + 1}.xml`;
}

/** All parts but the sheets and the shared texts, as text by their paths. */
export function bookParts(sheets: readonly SheetPart[]): Record<string, string> {
  return {
    '[Content_Types].xml': contentTypes(sheets.length),
    '_rels/.rels': relations([['officeDocument', 'xl/workbook.xml']]),
    'xl/workbook.xml': book(sheets),
    'xl/_rels/workbook.xml.rels': relations([
      ...sheets.map((_, k): [string, string] => ['worksheet', `worksheets/sheet${k + 1}.xml`]),
      ['styles', 'styles.xml'],
      ['sharedStrings', 'sharedStrings.xml'],
    ]),
    'xl/styles.xml': styles(),
  };
}

function contentTypes(sheets: number): string {
  const parts = [
    ['/xl/workbook.xml', 'sheet.main'],
    ...Array.from({ length: sheets }, (_, k) => [`/${sheetPath(k)}`, 'worksheet']),
    ['/xl/styles.xml', 'styles'],
    ['/xl/sharedStrings.xml', 'sharedStrings'],
  ].map(([path, type]) => `<Override PartName="${path}" ContentType="${CONTENT}.${type}+xml"/>`);
  return `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${parts.join('')}</Types>`;
}

function relations(targets: readonly (readonly [type: string, target: string])[]): string {
  const all = targets.map(
    ([type, target], k) => `<Relationship Id="rId${k + 1}" Type="${RELATIONS}/${type}" Target="${target}"/>`,
  );
  return `${HEAD}<Relationships xmlns="${PACKAGE}/relationships">${all.join('')}</Relationships>`;
}

function book(sheets: readonly SheetPart[]): string {
  const names = sheets.map(({ name }, k) => `<sheet name="${escapeXml(name)}" sheetId="${k + 1}" r:id="rId${k + 1}"/>`);
  // Spreadsheet programs keep the range of a filter as a hidden name too.
  const filters = sheets.flatMap(({ name, filter }, k) => {
    if (filter === undefined) return [];
    const [from, to] = filter.split(':').map((place) => place.replace(/([A-Z]+)(\d+)/, '$$$1$$$2'));
    const quoted = `'${name.replaceAll("'", "''")}'!${from}:${to}`;
    return [
      `<definedName name="_xlnm._FilterDatabase" localSheetId="${k}" hidden="1">${escapeXml(quoted)}</definedName>`,
    ];
  });
  const defined = filters.length === 0 ? '' : `<definedNames>${filters.join('')}</definedNames>`;
  return `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS}"><bookViews><workbookView/></bookViews><sheets>${names.join('')}</sheets>${defined}</workbook>`;
}

function styles(): string {
  const kinds = Object.keys(DATE_FORMATS);
  const formats = Object.values(DATE_FORMATS).map(
    (code, k) => `<numFmt numFmtId="${FIRST_FORMAT + k}" formatCode="${escapeXml(code)}"/>`,
  );
  const cells = STYLES.map((style) => {
    const format = kinds.indexOf(style);
    const number = format < 0 ? 'numFmtId="0"' : `numFmtId="${FIRST_FORMAT + format}" applyNumberFormat="1"`;
    const font = style === 'header' ? 'fontId="1" applyFont="1"' : 'fontId="0"';
    return `<xf ${number} ${font} fillId="0" borderId="0" xfId="0"/>`;
  });
  const font = (bold: string) => `<font>${bold}<sz val="11"/><name val="Calibri"/><family val="2"/></font>`;
  return `${HEAD}<styleSheet xmlns="${MAIN}"><numFmts count="${formats.length}">${formats.join('')}</numFmts><fonts count="2">${font('')}${font('<b/>')}</fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="${cells.length}">${cells.join('')}</cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>`;
}
