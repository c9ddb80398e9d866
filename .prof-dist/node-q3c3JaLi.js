export { c as parquetMetadata, t as parquetRead } from "./node-ybFrCZOg.js";
