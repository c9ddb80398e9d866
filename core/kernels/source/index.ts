export { blanksIn, hasHighBytes, haveFractions, missingIn } from './counts';
export { delimitedAt, delimitedLine, delimitedRows } from './delimited';
export { fixedWidth, fixedWidthAt } from './fixed-width';
export { jsonLines, jsonLinesAt } from './json-lines';
