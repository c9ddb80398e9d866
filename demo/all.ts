import { bookingExport } from './booking-export.ts';
import { crewList } from './crew-list.ts';
import { crossings } from './crossings.ts';
import type { DemoFiles, Edition } from './demo-job.ts';
import { faresPage } from './fares-page.ts';
import { gateLog } from './gate-log.ts';
import { manifest } from './manifest.ts';
import { monthlyFiles } from './monthly-files.ts';
import { planOutturn } from './plan-outturn.ts';
import { quayReturns } from './quay-returns.ts';
import { sailingRecords } from './sailing-records.ts';
import { targets } from './targets.ts';
import { timetableCopy } from './timetable-copy.ts';
import { weighbridge } from './weighbridge.ts';

/** Makes every demo report, by the name of its job. */
export const DEMOS: Readonly<Record<string, (edition?: Edition) => DemoFiles>> = {
  'quay-returns': quayReturns,
  weighbridge,
  'gate-log': gateLog,
  'booking-export': bookingExport,
  manifest,
  'sailing-records': sailingRecords,
  'crew-list': crewList,
  'fares-page': faresPage,
  'timetable-copy': timetableCopy,
  'monthly-files': monthlyFiles,
  targets,
  'plan-outturn': planOutturn,
  crossings,
};
