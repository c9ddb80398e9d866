export { blanksIn, hasHighBytes, haveFractions, missingIn } from './counts';
export { crc32 } from './crc32';
export { deflate } from './deflate';
export { delimitedAt, delimitedLine, delimitedRows } from './delimited';
export { fixedWidth, fixedWidthAt } from './fixed-width';
export { jsonLines, jsonLinesAt } from './json-lines';
export { numbers, numbersLeadWithZero } from './numbers';
export {
  hybrid,
  numberCodes,
  numberCodesFilled,
  numberCodesLeast,
  numberCodesMost,
  textBounds,
  textBoundsMost,
} from './parquet-cells';
export { rowBytes, rowBytesPart, rowBytesRows } from './row-bytes';
export { markedRows, markHeads } from './run-heads';
export { sheetCells, sheetCellsAt, sheetCellsColumn, sheetCellsRow } from './sheet-cells';
export { snappy } from './snappy';
