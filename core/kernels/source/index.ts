export { crc32 } from './crc32';
export { delimitedRows } from './delimited';
export { fixedWidth } from './fixed-width';
export { jsonLines } from './json-lines';
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
export { sheetCells } from './sheet-cells';
export { snappy } from './snappy';
