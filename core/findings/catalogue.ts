import { attributeBlocks } from './attribute-blocks.ts';
import { attributeRows } from './attribute-rows.ts';
import { changeColumns } from './change-columns.ts';
import { codes } from './codes.ts';
import { continued } from './continued.ts';
import { countColumns } from './count-columns.ts';
import { derivedRows } from './derived-rows.ts';
import { ditto } from './ditto.ts';
import { duplicates } from './duplicates.ts';
import type { Detector } from './finding.ts';
import { flags } from './flags.ts';
import { footnoteMarks } from './footnote-marks.ts';
import { formedLines } from './formed-lines.ts';
import { header } from './header.ts';
import { headersAsValues } from './headers-as-values.ts';
import { blankColumns, blankMargins, constantColumns, numberedSheets } from './idle-columns.ts';
import { indentation } from './indentation.ts';
import { keys } from './keys.ts';
import { labelWords } from './label-words.ts';
import { labels } from './labels.ts';
import { leaders } from './leaders.ts';
import { limits } from './limits.ts';
import { lines } from './lines.ts';
import { masterDetail } from './master-detail.ts';
import { measureNames } from './measure-names.ts';
import { missing } from './missing.ts';
import { namesInCells } from './names-in-cells.ts';
import { nestedCodes } from './nested-codes.ts';
import { notes } from './notes.ts';
import { outerRows } from './outer-rows.ts';
import { packedLists } from './packed-lists.ts';
import { pageFurniture } from './page-furniture.ts';
import { recordCodes } from './record-codes.ts';
import { records } from './records.ts';
import { remarksBelow } from './remarks-below.ts';
import { ruledTiers } from './ruled-tiers.ts';
import { runningBalance } from './running-balance.ts';
import { shiftedCells } from './shifted-cells.ts';
import { sideBySideTables } from './side-by-side-tables.ts';
import { sideNotes } from './side-notes.ts';
import { spacing } from './spacing.ts';
import { sumColumns } from './sum-columns.ts';
import { templates } from './templates.ts';
import { totals } from './totals.ts';
import { transposed } from './transposed.ts';
import { twoInOne } from './two-in-one.ts';
import { types } from './types.ts';
import { units } from './units.ts';
import { weekBlocks } from './week-blocks.ts';

/** All detectors in the order of the work; those of one stage are choices beside each other. */
export const STAGES: readonly (readonly Detector[])[] = [
  [sideBySideTables],
  [records],
  [lines, weekBlocks],
  [ruledTiers],
  [header, formedLines, transposed, attributeBlocks, outerRows, recordCodes, masterDetail],
  [pageFurniture],
  [remarksBelow],
  [limits],
  [notes],
  [shiftedCells, sideNotes],
  [indentation, nestedCodes],
  [runningBalance],
  [derivedRows],
  [totals],
  [labels],
  [continued],
  [labelWords],
  [ditto],
  [keys],
  [sumColumns],
  [changeColumns],
  [countColumns],
  [packedLists],
  [attributeRows],
  [footnoteMarks],
  [namesInCells],
  [units],
  [missing],
  [flags],
  [headersAsValues],
  [measureNames],
  [spacing],
  [leaders],
  [templates],
  [twoInOne],
  [blankMargins],
  [numberedSheets],
  [types],
];

/** What is worth a look in any table, and never part of a draft: the report said it so. */
export const ADVISORY_DETECTORS: readonly Detector[] = [duplicates, blankColumns, codes, constantColumns];
