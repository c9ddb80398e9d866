export { delimitedAt, delimitedLine, delimitedRows } from './delimited';
