import { d as counted } from "./builder-B1r8kR1k.js";
// core/read/tables/opened-table.ts
/** Says for each column how many of its times lost digits beyond the millisecond. */
function shortenedNotices(names, columns) {
	return columns.flatMap(({ shortened }, c) => shortened === 0 ? [] : [{
		severity: "warning",
		text: `${names[c]}: ${counted(shortened, "time")} cut to whole milliseconds`,
		column: names[c]
	}]);
}
export { shortenedNotices as t };
