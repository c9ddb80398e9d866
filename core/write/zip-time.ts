/** The time that all files of an archive bear, so that the same files give the same bytes; the earliest a zip knows. */
export const ZIP_TIME = new Date(1980, 0, 1);
