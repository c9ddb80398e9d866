import { createHash } from "node:crypto";
// service/sha256.ts
/** The SHA-256 of a file, in hexadecimal (FIPS 180-4). */
function sha256Of(bytes) {
	return createHash("sha256").update(bytes).digest("hex");
}
export { sha256Of as t };
