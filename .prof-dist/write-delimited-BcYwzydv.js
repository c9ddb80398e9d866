import { Bn as countUnreadable, Cn as countedText, Gn as spansOf, Hn as typeOfTag, In as flags, Jn as ByteDictionary, Kn as textCount, Ln as intVector, Sn as cellText, Tn as textView, kn as numberText, nn as ExportStopped, xn as roomFor, yn as Places } from "./write-aside-PkVZPj8k.js";
import { d as counted, f as few, l as Tag, u as decoderOf } from "./builder-B1r8kR1k.js";
import { a as FREE_FROM, o as kernels } from "./kernel-thread-4UV4J0Tc.js";
import { S as hashParquetValue, _ as EdgeInterpolationAlgorithms, a as toJson, b as PageTypes, d as getMaxDefinitionLevel, f as isListLike, g as ConvertedTypes, h as CompressionCodecs, m as BoundaryOrders, p as isMapLike, u as parquetSchema, v as Encodings, x as ParquetTypes, y as FieldRepetitionTypes } from "./node-ybFrCZOg.js";
// core/write/value-kinds.ts
/** A column that mixes kinds, or holds unreadable cells, is kept as text. */
function valueKind({ column }) {
	if (column.type === "text" || column.type === "received") return "text";
	return column.unreadable === void 0 || column.unreadable.codes.every((code) => code < 0) ? column.type : "text";
}
/** Numbers behind the cells of a counted column; NaN where there is none. */
function valuesOf(column) {
	return column.values;
}
/** All cells of a column as text. */
function textsOf(column, rows) {
	return Array.from({ length: rows }, (_, r) => cellText(column, r));
}
// node_modules/hyparquet-writer/src/bytewriter.js
/**
* @import {Writer} from '../src/types.js'
*/
/**
* Writes data to an auto-expanding ArrayBuffer.
*
* @implements {Writer}
*/
var ByteWriter = class {
	/**
	* @param {number} [initalSize]
	*/
	constructor(initalSize = 1024) {
		this.buffer = new ArrayBuffer(initalSize);
		this.view = new DataView(this.buffer);
		this.offset = 0;
		this.index = 0;
	}
	/**
	* @param {number} size
	*/
	ensure(size) {
		if (this.index + size > this.buffer.byteLength) {
			const newSize = Math.max(this.buffer.byteLength * 2, this.index + size);
			const newBuffer = new ArrayBuffer(newSize);
			new Uint8Array(newBuffer).set(new Uint8Array(this.buffer));
			this.buffer = newBuffer;
			this.view = new DataView(this.buffer);
		}
	}
	finish() {}
	getBuffer() {
		return this.buffer.slice(0, this.index);
	}
	getBytes() {
		return new Uint8Array(this.buffer, 0, this.index);
	}
	/**
	* @param {number} value
	*/
	appendUint8(value) {
		this.ensure(1);
		this.view.setUint8(this.index, value);
		this.offset++;
		this.index++;
	}
	/**
	* @param {number} value
	*/
	appendUint32(value) {
		this.ensure(4);
		this.view.setUint32(this.index, value, true);
		this.offset += 4;
		this.index += 4;
	}
	/**
	* @param {number} value
	*/
	appendInt32(value) {
		this.ensure(4);
		this.view.setInt32(this.index, value, true);
		this.offset += 4;
		this.index += 4;
	}
	/**
	* @param {bigint} value
	*/
	appendInt64(value) {
		this.ensure(8);
		this.view.setBigInt64(this.index, BigInt(value), true);
		this.offset += 8;
		this.index += 8;
	}
	/**
	* @param {number} value
	*/
	appendFloat32(value) {
		this.ensure(4);
		this.view.setFloat32(this.index, value, true);
		this.offset += 4;
		this.index += 4;
	}
	/**
	* @param {number} value
	*/
	appendFloat64(value) {
		this.ensure(8);
		this.view.setFloat64(this.index, value, true);
		this.offset += 8;
		this.index += 8;
	}
	/**
	* @param {ArrayBuffer} value
	*/
	appendBuffer(value) {
		this.appendBytes(new Uint8Array(value));
	}
	/**
	* @param {Uint8Array} value
	*/
	appendBytes(value) {
		this.ensure(value.length);
		new Uint8Array(this.buffer, this.index, value.length).set(value);
		this.offset += value.length;
		this.index += value.length;
	}
	/**
	* Convert a 32-bit signed integer to varint (1-5 bytes).
	* Writes out groups of 7 bits at a time, setting high bit if more to come.
	*
	* @param {number} value
	*/
	appendVarInt(value) {
		while (true) if ((value & -128) === 0) {
			this.appendUint8(value);
			return;
		} else {
			this.appendUint8(value & 127 | 128);
			value >>>= 7;
		}
	}
	/**
	* Convert a bigint to varint (1-10 bytes for 64-bit range).
	*
	* @param {bigint} value
	*/
	appendVarBigInt(value) {
		while (true) if ((value & -128n) === 0n) {
			this.appendUint8(Number(value));
			return;
		} else {
			this.appendUint8(Number(value & 127n | 128n));
			value >>= 7n;
		}
	}
	/**
	* Convert number to zigzag encoding and write as varint.
	*
	* @param {number | bigint} value
	*/
	appendZigZag(value) {
		if (typeof value === "number") this.appendVarInt(value << 1 ^ value >> 31);
		else this.appendVarBigInt(value << 1n ^ value >> 63n);
	}
};
// node_modules/hyparquet-writer/src/thrift.js
/**
* @import {ThriftField, ThriftType, Writer} from '../src/types.js'
*/
var STOP = 0;
var TRUE = 1;
var FALSE = 2;
var BYTE = 3;
var I32 = 5;
var I64 = 6;
var BINARY = 8;
var LIST = 9;
var STRUCT = 12;
/** A Thrift struct whose field ids and Compact Protocol types are already resolved. */
var ThriftStruct = class {
	/**
	* @param {ThriftField[]} fields
	*/
	constructor(fields) {
		this.fields = fields;
	}
};
/**
* Serialize a JS object in TCompactProtocol format.
*
* Expects keys named like "field_1", "field_2", etc. in ascending order.
*
* @param {Writer} writer
* @param {{ [key: `field_${number}`]: any }} data
*/
function serializeTCompactProtocol(writer, data) {
	writeElement(writer, STRUCT, data);
}
/**
* Write a single value of a given compact type.
*
* @param {Writer} writer
* @param {number} type
* @param {ThriftType} value
*/
function writeElement(writer, type, value) {
	if (type === TRUE) return;
	if (type === FALSE) return;
	if (type === BYTE && typeof value === "number") writer.appendUint8(value);
	else if (type === I32 && typeof value === "number") writer.appendZigZag(value);
	else if (type === I64 && typeof value === "bigint") writer.appendZigZag(value);
	else if (type === 7 && typeof value === "number") writer.appendFloat64(value);
	else if (type === BINARY && typeof value === "string") {
		const bytes = new TextEncoder().encode(value);
		writer.appendVarInt(bytes.length);
		writer.appendBytes(bytes);
	} else if (type === BINARY && value instanceof Uint8Array) {
		writer.appendVarInt(value.byteLength);
		writer.appendBytes(value);
	} else if (type === LIST && Array.isArray(value)) {
		const elemType = getCompactTypeForList(value);
		if (value.length > 14) {
			writer.appendUint8(240 | elemType);
			writer.appendVarInt(value.length);
		} else writer.appendUint8(value.length << 4 | elemType);
		if (elemType === FALSE) for (const v of value) writer.appendUint8(v ? 1 : 0);
		else for (const v of value) writeElement(writer, elemType, v);
	} else if (type === STRUCT && value instanceof ThriftStruct) {
		let lastFid = 0;
		for (const [fid, fieldType, fieldValue] of value.fields) {
			if (fieldValue === void 0) continue;
			lastFid = writeStructField(writer, lastFid, fid, fieldType, fieldValue);
		}
		writer.appendUint8(STOP);
	} else if (type === STRUCT && typeof value === "object") {
		let lastFid = 0;
		for (const [k, v] of Object.entries(value)) {
			if (v === void 0) continue;
			const fid = parseInt(k.replace(/^field_/, ""), 10);
			if (Number.isNaN(fid)) throw new Error(`thrift invalid field name: ${k}. Expected "field_###"`);
			const t = getCompactTypeForValue(v);
			lastFid = writeStructField(writer, lastFid, fid, t, v);
		}
		writer.appendUint8(STOP);
	} else throw new Error(`thrift invalid type ${type} for value ${value}`);
}
/**
* @param {Writer} writer
* @param {number} lastFid
* @param {number} fid
* @param {number} type
* @param {ThriftType} value
* @returns {number}
*/
function writeStructField(writer, lastFid, fid, type, value) {
	const delta = fid - lastFid;
	if (delta <= 0) throw new Error(`thrift non-monotonic field id: fid=${fid}, lastFid=${lastFid}`);
	if (delta > 15) {
		writer.appendUint8(type);
		writer.appendZigZag(fid);
	} else writer.appendUint8(delta << 4 | type);
	writeElement(writer, type, value);
	return fid;
}
/**
* Infer type from JS value
*
* @param {any} value
* @returns {number} CompactType
*/
function getCompactTypeForValue(value) {
	if (value === true) return TRUE;
	if (value === false) return FALSE;
	if (Number.isInteger(value)) return I32;
	if (typeof value === "number") return 7;
	if (typeof value === "bigint") return I64;
	if (typeof value === "string") return BINARY;
	if (value instanceof Uint8Array) return BINARY;
	if (Array.isArray(value)) return LIST;
	if (value && typeof value === "object") return STRUCT;
	throw new Error(`Cannot determine thrift compact type for: ${value}`);
}
/**
* Infer type for list elements, expand types as needed
*
* @param {any[]} value
* @returns {number} CompactType
*/
function getCompactTypeForList(value) {
	let elemType = 0;
	for (const v of value) {
		let t = getCompactTypeForValue(v);
		if (t === TRUE) t = FALSE;
		if (!elemType) elemType = t;
		if (elemType === 7 && t === I32) t = 7;
		if (elemType === I32 && t === 7) elemType = 7;
		if (t !== elemType) throw new Error(`thrift invalid type for list element: ${v} (expected type ${elemType})`);
	}
	return elemType ?? BYTE;
}
// node_modules/hyparquet-writer/src/bloom.js
/**
* @import {SchemaElement} from 'hyparquet'
* @import {PageIndexes, Writer} from '../src/types.js'
*/
var SALT = new Uint32Array([
	1203114875,
	1150766481,
	2284105051,
	2729912477,
	1884591559,
	770785867,
	2667333959,
	1550580529
]);
var MIN_BYTES$1 = 32;
var MAX_BYTES$1 = 134217728;
/**
* Map the high 32 bits of a hash to a block index in [0, numBlocks).
*
* @param {bigint} hash
* @param {number} numBlocks
* @returns {number}
*/
function blockIndex(hash, numBlocks) {
	return Number((hash >> 32n) * BigInt(numBlocks) >> 32n);
}
/**
* Per-block mask: 8 uint32 words, each with a single bit set at position `(low32 * SALT[i]) >> 27`.
*
* @param {bigint} hash
* @returns {Uint32Array}
*/
function blockMask(hash) {
	const m = /* @__PURE__ */ new Uint32Array(8);
	const low = Number(hash & 4294967295n) | 0;
	for (let i = 0; i < 8; i++) m[i] = 1 << (Math.imul(low, SALT[i]) >>> 27);
	return m;
}
/**
* Insert a hash into a Split Block Bloom Filter.
*
* @param {Uint32Array} blocks bloom filter words (8 * numBlocks long)
* @param {bigint} hash 64-bit xxhash of the parquet-plain-encoded value
*/
function sbbfInsert(blocks, hash) {
	const offset = blockIndex(hash, blocks.length >> 3) << 3;
	const m = blockMask(hash);
	for (let i = 0; i < 8; i++) blocks[offset + i] |= m[i];
}
/**
* Round up to the next power of two (32-bit).
*
* @param {number} n
* @returns {number}
*/
function nextPowerOfTwo(n) {
	let p = 1;
	while (p < n) p <<= 1;
	return p;
}
/**
* Optimal SBBF size in bytes for a given number of distinct values and
* target false-positive probability. Matches parquet-java's BlockSplitBloomFilter:
* derives bits from m = -8 * ndv / ln(1 - p^(1/8)) and rounds up to a power of two
* between one block and MAX_BYTES. Arrow C++ rejects a bitset that is not a power of two.
*
* @param {number} ndv expected number of distinct values
* @param {number} fpp target false positive probability, in (0, 1)
* @returns {number} bloom filter size in bytes (power of two, at least 32)
*/
function optimalNumBytes(ndv, fpp) {
	if (!(fpp > 0 && fpp < 1)) throw new Error(`bloom filter fpp must be in (0, 1), got ${fpp}`);
	if (!(ndv >= 0)) throw new Error(`bloom filter ndv must be >= 0, got ${ndv}`);
	const m = -8 * ndv / Math.log(1 - fpp ** (1 / 8));
	const numBytes = Math.ceil(m / 8);
	if (!(numBytes <= MAX_BYTES$1)) return MAX_BYTES$1;
	return nextPowerOfTwo(Math.max(numBytes, MIN_BYTES$1));
}
/**
* Collects distinct hashes of column values and finalizes them into an SBBF
* sized for the actual distinct count. `finalize` returns `undefined` if any
* non-null value was unhashable (the filter would have false negatives), if
* no values were seen, or if `maxBytes` is below one block. Above `maxBytes`
* the filter is capped at the largest power of two that fits, like parquet-java.
*/
var BloomBuilder = class {
	/**
	* @param {SchemaElement} element
	* @param {{ fpp?: number, maxBytes?: number }} [options]
	*/
	constructor(element, { fpp = .01, maxBytes = 1048576 } = {}) {
		/** @type {SchemaElement} */
		this.element = element;
		this.fpp = fpp;
		this.maxBytes = maxBytes;
		/** @type {Set<bigint>} */
		this.hashes = /* @__PURE__ */ new Set();
		this.skipped = 0;
	}
	/** @param {any} value */
	insert(value) {
		if (value === null || value === void 0) return;
		const h = hashParquetValue(value, this.element);
		if (h === void 0) {
			this.skipped++;
			return;
		}
		this.hashes.add(h);
	}
	/** @returns {Uint32Array | undefined} */
	finalize() {
		if (this.skipped > 0 || this.hashes.size === 0) return void 0;
		let numBytes = optimalNumBytes(this.hashes.size, this.fpp);
		while (numBytes > this.maxBytes && numBytes > MIN_BYTES$1) numBytes >>= 1;
		if (numBytes > this.maxBytes) return void 0;
		const blocks = new Uint32Array(numBytes >> 2);
		for (const h of this.hashes) sbbfInsert(blocks, h);
		return blocks;
	}
};
/**
* Write a parquet bloom filter: BloomFilterHeader thrift struct followed by
* the raw little-endian bytes of the SBBF blocks. Always uses BLOCK / XXHASH /
* UNCOMPRESSED, the only variants parquet currently defines.
*
* @param {Writer} writer
* @param {Uint32Array} blocks bloom filter words (8 * numBlocks long)
*/
function writeBloomFilter(writer, blocks) {
	if (blocks.length % 8 !== 0) throw new Error(`bloom filter block count must be a multiple of 8 uint32 words, got ${blocks.length}`);
	serializeTCompactProtocol(writer, {
		field_1: blocks.byteLength,
		field_2: { field_1: {} },
		field_3: { field_1: {} },
		field_4: { field_1: {} }
	});
	for (let i = 0; i < blocks.length; i++) writer.appendUint32(blocks[i]);
}
/**
* Write all pending bloom filters in a contiguous block and patch each chunk's
* meta_data.bloom_filter_offset / bloom_filter_length so readers can find them.
* Clustering matches parquet-mr's tail placement: a reader fetching the footer
* region can pull every bloom in one range request.
*
* @param {Writer} writer
* @param {PageIndexes[]} pageIndexes
*/
function writeBlooms(writer, pageIndexes) {
	for (const { chunk, bloomFilter } of pageIndexes) {
		if (!bloomFilter || !chunk.meta_data) continue;
		const offset = writer.offset;
		writeBloomFilter(writer, bloomFilter);
		chunk.meta_data.bloom_filter_offset = BigInt(offset);
		chunk.meta_data.bloom_filter_length = writer.offset - offset;
	}
}
// node_modules/hyparquet-writer/src/delta.js
/**
* Delta Binary Packed encoding for parquet.
* Encodes integers as deltas with variable bit-width packing.
*
* @import {DecodedArray} from 'hyparquet'
* @import {Writer} from '../src/types.js'
*/
var BLOCK_SIZE = 128;
var MINIBLOCKS_PER_BLOCK = 4;
var VALUES_PER_MINIBLOCK = BLOCK_SIZE / MINIBLOCKS_PER_BLOCK;
/**
* Write values using delta binary packed encoding.
* Deltas wrap around in two's complement at the width of the physical type.
*
* @param {Writer} writer
* @param {DecodedArray} values
* @param {'INT32' | 'INT64'} type
*/
function deltaBinaryPack(writer, values, type) {
	if (values.length === 0) {
		writer.appendVarInt(BLOCK_SIZE);
		writer.appendVarInt(MINIBLOCKS_PER_BLOCK);
		writer.appendVarInt(0);
		writer.appendVarInt(0);
		return;
	}
	if (typeof values[0] !== "number" && typeof values[0] !== "bigint") throw new Error("deltaBinaryPack only supports number or bigint arrays");
	if (usesInt32NumberPath(values)) deltaBinaryPackInt32(writer, values, type === "INT32");
	else deltaBinaryPackBigInt(writer, values, type === "INT32" ? 32 : 64);
}
/**
* Return whether all values can use exact Number arithmetic. Unwrapped deltas
* of int32 values can span 33 signed bits, but they and their adjusted deltas
* remain exactly representable as JavaScript numbers.
*
* @param {DecodedArray} values
* @returns {values is DecodedArray & ArrayLike<number>}
*/
function usesInt32NumberPath(values) {
	if (values instanceof Int32Array) return true;
	for (let i = 0; i < values.length; i++) {
		const value = values[i];
		if (typeof value !== "number" || value !== (value | 0)) return false;
	}
	return true;
}
/**
* Write signed 32-bit values without allocating or operating on BigInts.
*
* @param {Writer} writer
* @param {ArrayLike<number>} values
* @param {boolean} wrap - wrap deltas to int32, for the INT32 physical type
*/
function deltaBinaryPackInt32(writer, values, wrap) {
	const count = values.length;
	writer.appendVarInt(BLOCK_SIZE);
	writer.appendVarInt(MINIBLOCKS_PER_BLOCK);
	writer.appendVarInt(count);
	appendZigZagNumber(writer, values[0]);
	/** @type {Array<Uint8Array | undefined>} */
	const packedByBitWidth = [];
	const blockDeltas = new Float64Array(BLOCK_SIZE);
	const bitWidths = new Uint8Array(MINIBLOCKS_PER_BLOCK);
	let index = 1;
	while (index < count) {
		const blockEnd = Math.min(index + BLOCK_SIZE, count);
		const blockSize = blockEnd - index;
		const firstDelta = wrap ? values[index] - values[index - 1] | 0 : values[index] - values[index - 1];
		let previous = values[index];
		let constantEnd = index + 1;
		while (constantEnd < blockEnd) {
			const value = values[constantEnd];
			if ((wrap ? value - previous | 0 : value - previous) !== firstDelta) break;
			previous = value;
			constantEnd++;
		}
		if (constantEnd === blockEnd) {
			appendZigZagNumber(writer, firstDelta);
			writer.appendUint32(0);
			index = blockEnd;
			continue;
		}
		let minDelta = firstDelta;
		blockDeltas[0] = minDelta;
		for (let i = 1; i < blockSize; i++) {
			const delta = wrap ? values[index + i] - values[index + i - 1] | 0 : values[index + i] - values[index + i - 1];
			blockDeltas[i] = delta;
			if (delta < minDelta) minDelta = delta;
		}
		appendZigZagNumber(writer, minDelta);
		for (let mb = 0; mb < MINIBLOCKS_PER_BLOCK; mb++) {
			const mbStart = mb * VALUES_PER_MINIBLOCK;
			const mbEnd = Math.min(mbStart + VALUES_PER_MINIBLOCK, blockSize);
			let maxAdjusted = 0;
			for (let i = mbStart; i < mbEnd; i++) {
				const adjusted = blockDeltas[i] - minDelta;
				if (adjusted > maxAdjusted) maxAdjusted = adjusted;
			}
			bitWidths[mb] = bitWidthNumber(maxAdjusted);
		}
		writer.appendBytes(bitWidths);
		for (let mb = 0; mb < MINIBLOCKS_PER_BLOCK; mb++) {
			const bitWidth = bitWidths[mb];
			if (bitWidth === 0) continue;
			const mbStart = mb * VALUES_PER_MINIBLOCK;
			const mbEnd = Math.min(mbStart + VALUES_PER_MINIBLOCK, blockSize);
			const packed = packedByBitWidth[bitWidth] ??= new Uint8Array(bitWidth * 4);
			let byteIndex = 0;
			let buffer = 0;
			let bitsUsed = 0;
			if (bitWidth <= 25) for (let i = 0; i < VALUES_PER_MINIBLOCK; i++) {
				const adjusted = mbStart + i < mbEnd ? blockDeltas[mbStart + i] - minDelta : 0;
				buffer |= adjusted << bitsUsed;
				bitsUsed += bitWidth;
				while (bitsUsed >= 8) {
					packed[byteIndex++] = buffer & 255;
					buffer >>>= 8;
					bitsUsed -= 8;
				}
			}
			else for (let i = 0; i < VALUES_PER_MINIBLOCK; i++) {
				const adjusted = mbStart + i < mbEnd ? blockDeltas[mbStart + i] - minDelta : 0;
				buffer += adjusted * 2 ** bitsUsed;
				bitsUsed += bitWidth;
				while (bitsUsed >= 8) {
					packed[byteIndex++] = buffer % 256;
					buffer = Math.floor(buffer / 256);
					bitsUsed -= 8;
				}
			}
			writer.appendBytes(packed);
		}
		index = blockEnd;
	}
}
/**
* BigInt fallback for INT64 values and numeric input outside the INT32 range.
*
* @param {Writer} writer
* @param {DecodedArray} values
* @param {number} bits - physical type width that deltas wrap at
*/
function deltaBinaryPackBigInt(writer, values, bits) {
	const count = values.length;
	writer.appendVarInt(BLOCK_SIZE);
	writer.appendVarInt(MINIBLOCKS_PER_BLOCK);
	writer.appendVarInt(count);
	writer.appendZigZag(BigInt.asIntN(bits, BigInt(values[0])));
	const blockDeltas = new BigInt64Array(BLOCK_SIZE);
	const bitWidths = new Uint8Array(MINIBLOCKS_PER_BLOCK);
	let index = 1;
	while (index < count) {
		const blockEnd = Math.min(index + BLOCK_SIZE, count);
		const blockSize = blockEnd - index;
		let minDelta = 0n;
		for (let i = 0; i < blockSize; i++) {
			blockDeltas[i] = BigInt(values[index + i]) - BigInt(values[index + i - 1]);
			if (bits === 32) blockDeltas[i] = BigInt.asIntN(32, blockDeltas[i]);
			const delta = blockDeltas[i];
			if (i === 0 || delta < minDelta) minDelta = delta;
		}
		writer.appendZigZag(minDelta);
		for (let mb = 0; mb < MINIBLOCKS_PER_BLOCK; mb++) {
			const mbStart = mb * VALUES_PER_MINIBLOCK;
			const mbEnd = Math.min(mbStart + VALUES_PER_MINIBLOCK, blockSize);
			let maxAdjusted = 0n;
			for (let i = mbStart; i < mbEnd; i++) {
				const adjusted = blockDeltas[i] - minDelta;
				if (adjusted > maxAdjusted) maxAdjusted = adjusted;
			}
			bitWidths[mb] = bitWidth(maxAdjusted);
		}
		writer.appendBytes(bitWidths);
		for (let mb = 0; mb < MINIBLOCKS_PER_BLOCK; mb++) {
			const bitWidth = bitWidths[mb];
			if (bitWidth === 0) continue;
			const mbStart = mb * VALUES_PER_MINIBLOCK;
			const mbEnd = Math.min(mbStart + VALUES_PER_MINIBLOCK, blockSize);
			let buffer = 0n;
			let bitsUsed = 0;
			for (let i = 0; i < VALUES_PER_MINIBLOCK; i++) {
				const adjusted = mbStart + i < mbEnd ? blockDeltas[mbStart + i] - minDelta : 0n;
				buffer |= adjusted << BigInt(bitsUsed);
				bitsUsed += bitWidth;
				while (bitsUsed >= 8) {
					writer.appendUint8(Number(buffer & 255n));
					buffer >>= 8n;
					bitsUsed -= 8;
				}
			}
		}
		index = blockEnd;
	}
}
/**
* Zigzag-encode an exactly represented integer and write it as a varint without
* truncating through JavaScript's 32-bit bitwise operators.
*
* @param {Writer} writer
* @param {number} value
*/
function appendZigZagNumber(writer, value) {
	let encoded = value < 0 ? -value * 2 - 1 : value * 2;
	while (encoded >= 128) {
		writer.appendUint8(encoded % 128 + 128);
		encoded = Math.floor(encoded / 128);
	}
	writer.appendUint8(encoded);
}
/**
* Minimum bits needed to store an adjusted INT32 delta.
*
* @param {number} value
* @returns {number}
*/
function bitWidthNumber(value) {
	if (value === 0) return 0;
	return value > 4294967295 ? 33 : 32 - Math.clz32(value);
}
/**
* Write byte arrays using delta length encoding.
* Encodes lengths using delta binary packed, then writes raw bytes.
*
* @param {Writer} writer
* @param {DecodedArray} values
*/
function deltaLengthByteArray(writer, values) {
	const lengths = new Int32Array(values.length);
	for (let i = 0; i < values.length; i++) {
		const value = values[i];
		if (!(value instanceof Uint8Array)) throw new Error("deltaLengthByteArray expects Uint8Array values");
		lengths[i] = value.length;
	}
	deltaBinaryPack(writer, lengths, "INT32");
	for (const value of values) writer.appendBytes(value);
}
/**
* Write byte arrays using delta encoding with prefix compression.
* Stores common prefixes with previous value to improve compression.
*
* @param {Writer} writer
* @param {DecodedArray} values
*/
function deltaByteArray(writer, values) {
	if (values.length === 0) {
		deltaBinaryPack(writer, [], "INT32");
		deltaBinaryPack(writer, [], "INT32");
		return;
	}
	const prefixLengths = new Int32Array(values.length);
	const suffixLengths = new Int32Array(values.length);
	const value = values[0];
	if (!(value instanceof Uint8Array)) throw new Error("deltaByteArray expects Uint8Array values");
	prefixLengths[0] = 0;
	suffixLengths[0] = value.length;
	for (let i = 1; i < values.length; i++) {
		const prev = values[i - 1];
		const curr = values[i];
		let prefixLen;
		if (curr === prev) prefixLen = curr.length;
		else {
			if (!(curr instanceof Uint8Array)) throw new Error("deltaByteArray expects Uint8Array values");
			prefixLen = 0;
			const maxPrefix = Math.min(prev.length, curr.length);
			while (prefixLen < maxPrefix && prev[prefixLen] === curr[prefixLen]) prefixLen++;
		}
		prefixLengths[i] = prefixLen;
		suffixLengths[i] = curr.length - prefixLen;
	}
	deltaBinaryPack(writer, prefixLengths, "INT32");
	deltaBinaryPack(writer, suffixLengths, "INT32");
	for (let i = 0; i < values.length; i++) if (suffixLengths[i] > 0) writer.appendBytes(values[i].subarray(prefixLengths[i]));
}
/**
* Minimum bits needed to store value.
*
* @param {bigint} value
* @returns {number}
*/
function bitWidth(value) {
	if (value === 0n) return 0;
	let bits = 0;
	while (value > 0n) {
		bits++;
		value >>= 1n;
	}
	return bits;
}
// node_modules/hyparquet-writer/src/encoding.js
/**
* @import {DecodedArray} from 'hyparquet'
* @import {Writer} from '../src/types.js'
*/
/**
* @param {Writer} writer
* @param {DecodedArray} values
* @param {number} bitWidth
* @returns {number} bytes written
*/
function writeRleBitPackedHybrid(writer, values, bitWidth) {
	const offsetStart = writer.offset;
	let pendingBitPackedGroups = 0;
	let bitPackedStart = 0;
	let i = 0;
	while (i < values.length) {
		let rleCount = 1;
		const firstVal = values[i];
		while (i + rleCount < values.length && values[i + rleCount] === firstVal) rleCount++;
		if (rleCount >= 8) {
			if (pendingBitPackedGroups) {
				writeBitPackedGroups(writer, values, bitPackedStart, pendingBitPackedGroups, bitWidth);
				pendingBitPackedGroups = 0;
			}
			writeRleRun(writer, firstVal, rleCount, bitWidth);
			i += rleCount;
		} else {
			if (pendingBitPackedGroups === 0) bitPackedStart = i;
			pendingBitPackedGroups++;
			i += 8;
		}
	}
	if (pendingBitPackedGroups) writeBitPackedGroups(writer, values, bitPackedStart, pendingBitPackedGroups, bitWidth);
	return writer.offset - offsetStart;
}
/**
* Write a single RLE run: a repeated value and its count.
*
* @param {Writer} writer
* @param {number} value
* @param {number} count
* @param {number} bitWidth
*/
function writeRleRun(writer, value, count, bitWidth) {
	writer.appendVarInt(count << 1);
	const width = bitWidth + 7 >> 3;
	for (let j = 0; j < width; j++) writer.appendUint8(value >> (j << 3) & 255);
}
/**
* Write consecutive bit-packed groups of 8 values each.
*
* @param {Writer} writer
* @param {DecodedArray} values
* @param {number} start index of first value
* @param {number} numGroups number of 8-value groups
* @param {number} bitWidth
*/
function writeBitPackedGroups(writer, values, start, numGroups, bitWidth) {
	writer.appendVarInt(numGroups << 1 | 1);
	if (bitWidth === 0) return;
	const mask = (1 << bitWidth) - 1;
	let buffer = 0;
	let bitsUsed = 0;
	const totalValues = numGroups * 8;
	for (let i = 0; i < totalValues; i++) {
		const idx = start + i;
		const v = idx < values.length ? values[idx] & mask : 0;
		buffer |= v << bitsUsed;
		bitsUsed += bitWidth;
		while (bitsUsed >= 8) {
			writer.appendUint8(buffer & 255);
			buffer >>>= 8;
			bitsUsed -= 8;
		}
	}
	if (bitsUsed > 0) writer.appendUint8(buffer & 255);
}
// node_modules/hyparquet-writer/src/plain.js
/**
* @import {DecodedArray, ParquetType} from 'hyparquet'
* @import {Writer} from '../src/types.js'
* @param {Writer} writer
* @param {DecodedArray} values
* @param {ParquetType} type
* @param {number | undefined} fixedLength
*/
function writePlain(writer, values, type, fixedLength) {
	if (type === "BOOLEAN") writePlainBoolean(writer, values);
	else if (type === "INT32") writePlainInt32(writer, values);
	else if (type === "INT64") writePlainInt64(writer, values);
	else if (type === "FLOAT") writePlainFloat(writer, values);
	else if (type === "DOUBLE") writePlainDouble(writer, values);
	else if (type === "BYTE_ARRAY") writePlainByteArray(writer, values);
	else if (type === "FIXED_LEN_BYTE_ARRAY") {
		if (!fixedLength) throw new Error("parquet FIXED_LEN_BYTE_ARRAY expected type_length");
		writePlainByteArrayFixed(writer, values, fixedLength);
	} else throw new Error(`parquet unsupported type: ${type}`);
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
*/
function writePlainBoolean(writer, values) {
	let currentByte = 0;
	for (let i = 0; i < values.length; i++) {
		const value = values[i];
		if (typeof value !== "boolean") throw new Error("parquet expected boolean value, got " + value);
		const bitOffset = i % 8;
		if (value) currentByte |= 1 << bitOffset;
		if (bitOffset === 7) {
			writer.appendUint8(currentByte);
			currentByte = 0;
		}
	}
	if (values.length % 8) writer.appendUint8(currentByte);
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
*/
function writePlainInt32(writer, values) {
	for (const value of values) {
		if (!Number.isSafeInteger(value)) throw new Error("parquet expected integer value, got " + value);
		if (value < -2147483648 || value > 2147483647) throw new Error("parquet expected int32 value, got " + value);
		writer.appendInt32(value);
	}
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
*/
function writePlainInt64(writer, values) {
	for (const value of values) {
		if (typeof value !== "bigint") throw new Error("parquet expected bigint value, got " + value);
		writer.appendInt64(value);
	}
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
*/
function writePlainFloat(writer, values) {
	for (const value of values) {
		if (typeof value !== "number") throw new Error("parquet expected number value, got " + value);
		writer.appendFloat32(value);
	}
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
*/
function writePlainDouble(writer, values) {
	for (const value of values) {
		if (typeof value !== "number") throw new Error("parquet expected number value, got " + value);
		writer.appendFloat64(value);
	}
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
*/
function writePlainByteArray(writer, values) {
	for (const value of values) {
		let bytes = value;
		if (typeof bytes === "string") bytes = new TextEncoder().encode(value);
		if (!(bytes instanceof Uint8Array)) throw new Error("parquet expected Uint8Array value, got " + typeof bytes);
		writer.appendUint32(bytes.length);
		writer.appendBytes(bytes);
	}
}
/**
* @param {Writer} writer
* @param {DecodedArray} values
* @param {number} fixedLength
*/
function writePlainByteArrayFixed(writer, values, fixedLength) {
	for (const value of values) {
		if (!(value instanceof Uint8Array)) throw new Error("parquet expected Uint8Array value, got " + typeof value);
		if (value.length !== fixedLength) throw new Error(`parquet expected Uint8Array of length ${fixedLength}`);
		writer.appendBytes(value);
	}
}
// node_modules/hyparquet-writer/src/variant.js
var encoder = new TextEncoder();
var INT64_MIN = -(2n ** 63n);
var INT64_MAX = 2n ** 63n - 1n;
var VARIANT_NULL = new Uint8Array([0]);
var RESERVED_SHREDDING_FIELDS = /* @__PURE__ */ new Set(["value", "typed_value"]);
/** @type {Map<string, number>} */
var EMPTY_KEY_INDEX = /* @__PURE__ */ new Map();
var EMPTY_METADATA = writeVariantMetadata([]);
/**
* Encode an array of arbitrary JS values into variant binary format.
* Each row becomes { metadata, value } (or null for missing values).
* When shredding is provided, produces { metadata, value, typed_value } per row.
*
* @import {BasicType, ShredType} from '../src/types.js'
* @param {any[]} values
* @param {ShredType | undefined} shredding
* @param {{ name: string, required: boolean }} [column]
* @returns {Array<Record<string, any> | null>}
*/
function encodeVariantColumn(values, shredding, column) {
	if (column?.required) {
		for (let i = 0; i < values.length; i++) if (values[i] === void 0) throw new Error(`required variant column ${column.name} has undefined value at index ${i}`);
	}
	/** @type {ByteWriter[]} */
	const scratchWriters = [];
	const shreddingConfig = shredding && normalizeShreddingConfig(shredding);
	if (shreddingConfig) {
		/** @type {Map<string, { metadata: Uint8Array, keyIndex: Map<string, number> }>} */
		const metadataCache = /* @__PURE__ */ new Map();
		return values.map((value) => {
			if (value === void 0) return null;
			/** @type {Set<string>} */
			const keys = /* @__PURE__ */ new Set();
			collectKeys(value, keys);
			const { metadata, keyIndex } = getVariantRowMetadata(keys, metadataCache);
			return {
				metadata,
				...encodeShredded(value, shreddingConfig, keyIndex, true, scratchWriters)
			};
		});
	}
	const dictionary = buildVariantDictionary(values);
	const metadata = writeVariantMetadata(dictionary);
	/** @type {Map<string, number>} */
	const keyIndex = /* @__PURE__ */ new Map();
	for (let i = 0; i < dictionary.length; i++) keyIndex.set(dictionary[i], i);
	return values.map((value) => {
		if (value === void 0) return null;
		return {
			metadata,
			value: writeVariantValue(value, keyIndex, scratchWriters)
		};
	});
}
/**
* Recursively encode a value against a shred type into a { value, typed_value }
* shredded group (the metadata wrapper is added by the caller at the top level).
*
* Shape rules (per the Variant shredding spec):
* - scalar: matches the type -> typed_value holds the value, value is null;
*   otherwise fall back to a binary variant in value.
* - object: shredded fields go into the typed_value struct (absent fields are
*   omitted), remaining fields are packed into a binary value.
* - array: each element is recursively shredded into the typed_value LIST, value
*   is null. A non-array value falls back to a binary value.
*
* @param {any} value
* @param {ShredType} shredType
* @param {Map<string, number>} keyIndex
* @param {boolean} allowPartialObjects
* @param {ByteWriter[]} scratchWriters
* @returns {{ value: Uint8Array | null, typed_value: any }}
*/
function encodeShredded(value, shredType, keyIndex, allowPartialObjects, scratchWriters) {
	if (value === null || value === void 0) return {
		value: VARIANT_NULL,
		typed_value: null
	};
	if (Array.isArray(shredType)) {
		if (!Array.isArray(value)) return {
			value: writeVariantValue(value, keyIndex, scratchWriters),
			typed_value: null
		};
		const elemShred = shredType[0];
		return {
			value: null,
			typed_value: value.map((el) => encodeShredded(el, elemShred, keyIndex, false, scratchWriters))
		};
	}
	if (typeof shredType === "object") {
		if (typeof value !== "object" || Array.isArray(value) || value instanceof Date || value instanceof Uint8Array) return {
			value: writeVariantValue(value, keyIndex, scratchWriters),
			typed_value: null
		};
		/** @type {Record<string, any>} */
		const remaining = {};
		let hasRemaining = false;
		for (const k of Object.keys(value)) {
			if (k in shredType || value[k] === void 0) continue;
			remaining[k] = value[k];
			hasRemaining = true;
		}
		if (hasRemaining && !allowPartialObjects) return {
			value: writeVariantValue(value, keyIndex, scratchWriters),
			typed_value: null
		};
		const fieldNames = Object.keys(shredType);
		if (fieldNames.some((fieldName) => (!Object.prototype.hasOwnProperty.call(value, fieldName) || value[fieldName] === void 0) && keyIndex.has(fieldName))) return {
			value: writeVariantValue(value, keyIndex, scratchWriters),
			typed_value: null
		};
		/** @type {Record<string, any>} */
		const typedValue = {};
		for (const fieldName of fieldNames) {
			if (!Object.prototype.hasOwnProperty.call(value, fieldName) || value[fieldName] === void 0) continue;
			typedValue[fieldName] = encodeShredded(value[fieldName], shredType[fieldName], keyIndex, false, scratchWriters);
		}
		return {
			value: hasRemaining ? writeVariantValue(remaining, keyIndex, scratchWriters) : null,
			typed_value: typedValue
		};
	}
	if (matchesType(value, shredType)) return {
		value: null,
		typed_value: value
	};
	return {
		value: writeVariantValue(value, keyIndex, scratchWriters),
		typed_value: null
	};
}
/**
* Build metadata and keyIndex, sharing across rows with the same dictionary.
*
* @param {Set<string>} keys
* @param {Map<string, { metadata: Uint8Array, keyIndex: Map<string, number> }>} metadataCache
* @returns {{ metadata: Uint8Array, keyIndex: Map<string, number> }}
*/
function getVariantRowMetadata(keys, metadataCache) {
	if (keys.size === 0) return {
		metadata: EMPTY_METADATA,
		keyIndex: EMPTY_KEY_INDEX
	};
	const dictionary = [...keys].sort();
	const cacheKey = dictionary.join("\0");
	const cached = metadataCache.get(cacheKey);
	if (cached) return cached;
	const metadata = writeVariantMetadata(dictionary);
	const keyIndex = /* @__PURE__ */ new Map();
	for (let i = 0; i < dictionary.length; i++) keyIndex.set(dictionary[i], i);
	const rowMetadata = {
		metadata,
		keyIndex
	};
	metadataCache.set(cacheKey, rowMetadata);
	return rowMetadata;
}
/**
* Check if a JS value matches a BasicType for shredding.
*
* @param {any} value
* @param {BasicType} type
* @returns {boolean}
*/
function matchesType(value, type) {
	if (value === null || value === void 0) return false;
	switch (type) {
		case "BOOLEAN": return typeof value === "boolean";
		case "INT32": return typeof value === "number" && Number.isInteger(value) && value >= -2147483648 && value <= 2147483647;
		case "INT64": return typeof value === "bigint" && value >= INT64_MIN && value <= INT64_MAX;
		case "FLOAT": return typeof value === "number";
		case "DOUBLE": return typeof value === "number";
		case "STRING": return typeof value === "string";
		case "TIMESTAMP": return value instanceof Date;
		default: return false;
	}
}
/**
* Recursively strip field names reserved by the shredded variant wrapper layout
* (`value`, `typed_value`). Returns undefined when an object level empties out.
*
* @param {ShredType} shredding
* @returns {ShredType | undefined}
*/
function normalizeShreddingConfig(shredding) {
	if (Array.isArray(shredding)) {
		const elem = shredding.length ? normalizeShreddingConfig(shredding[0]) : void 0;
		return elem === void 0 ? void 0 : [elem];
	}
	if (typeof shredding === "object") {
		/** @type {Record<string, ShredType>} */
		const normalized = {};
		for (const [key, type] of Object.entries(shredding)) {
			if (RESERVED_SHREDDING_FIELDS.has(key)) continue;
			const norm = normalizeShreddingConfig(type);
			if (norm !== void 0) normalized[key] = norm;
		}
		return Object.keys(normalized).length > 0 ? normalized : void 0;
	}
	return shredding;
}
/**
* Recursively collect all unique object keys from the column values.
* Returns a sorted string array.
*
* @param {any[]} values
* @returns {string[]}
*/
function buildVariantDictionary(values) {
	/** @type {Set<string>} */
	const keys = /* @__PURE__ */ new Set();
	collectKeys(values, keys);
	return [...keys].sort();
}
/**
* @param {any} value
* @param {Set<string>} keys
*/
function collectKeys(value, keys) {
	if (value === null || value === void 0) return;
	if (Array.isArray(value)) {
		for (const item of value) collectKeys(item, keys);
		return;
	}
	if (value instanceof Date || value instanceof Uint8Array) return;
	if (typeof value === "object") for (const key of Object.keys(value)) {
		keys.add(key);
		collectKeys(value[key], keys);
	}
}
/**
* Encode variant metadata binary.
* Format: header byte, dictionary size, offsets, UTF-8 string data.
*
* @param {string[]} dictionary sorted array of unique keys
* @returns {Uint8Array}
*/
function writeVariantMetadata(dictionary) {
	const n = dictionary.length;
	/** @type {Uint8Array[]} */
	const encoded = new Array(n);
	let totalStringBytes = 0;
	for (let i = 0; i < n; i++) {
		const e = encoder.encode(dictionary[i]);
		encoded[i] = e;
		totalStringBytes += e.length;
	}
	const offsetSize = byteWidth(totalStringBytes);
	const header = 17 | offsetSize - 1 << 6;
	const totalSize = 1 + offsetSize + (n + 1) * offsetSize + totalStringBytes;
	const bytes = new Uint8Array(totalSize);
	let offset = 0;
	bytes[offset++] = header;
	for (let j = 0; j < offsetSize; j++) bytes[offset++] = n >> j * 8 & 255;
	let strOffset = 0;
	for (let i = 0; i < n; i++) {
		for (let j = 0; j < offsetSize; j++) bytes[offset++] = strOffset >> j * 8 & 255;
		strOffset += encoded[i].length;
	}
	for (let j = 0; j < offsetSize; j++) bytes[offset++] = strOffset >> j * 8 & 255;
	for (let i = 0; i < n; i++) {
		bytes.set(encoded[i], offset);
		offset += encoded[i].length;
	}
	return bytes;
}
/**
* Encode a single JS value to variant binary format.
*
* @param {any} value
* @param {Map<string, number>} keyIndex map from key string to dictionary index
* @param {ByteWriter[]} scratchWriters
* @returns {Uint8Array}
*/
function writeVariantValue(value, keyIndex, scratchWriters) {
	const writer = new ByteWriter(8);
	writeValue(value, writer, keyIndex, scratchWriters);
	return writer.getBytes();
}
/**
* @param {any} val
* @param {ByteWriter} writer
* @param {Map<string, number>} keyIndex
* @param {ByteWriter[]} scratchWriters
*/
function writeValue(val, writer, keyIndex, scratchWriters) {
	if (val === null || val === void 0) {
		writer.appendUint8(0);
		return;
	}
	if (val === true) {
		writer.appendUint8(4);
		return;
	}
	if (val === false) {
		writer.appendUint8(8);
		return;
	}
	if (typeof val === "bigint") {
		if (val < INT64_MIN || val > INT64_MAX) throw new RangeError(`variant bigint out of int64 range: ${val}`);
		writer.appendUint8(24);
		writer.appendInt64(val);
		return;
	}
	if (typeof val === "number") {
		if (Number.isInteger(val)) {
			if (val >= -128 && val <= 127) {
				writer.appendUint8(12);
				writer.appendUint8(val & 255);
				return;
			}
			if (val >= -32768 && val <= 32767) {
				writer.appendUint8(16);
				appendUnsignedLE(writer, val, 2);
				return;
			}
			if (val >= -2147483648 && val <= 2147483647) {
				writer.appendUint8(20);
				writer.appendInt32(val);
				return;
			}
		}
		writer.appendUint8(28);
		writer.appendFloat64(val);
		return;
	}
	if (typeof val === "string") {
		const strBytes = encoder.encode(val);
		if (strBytes.length <= 63) {
			writer.appendUint8(strBytes.length << 2 | 1);
			writer.appendBytes(strBytes);
		} else {
			writer.appendUint8(64);
			writer.appendUint32(strBytes.length);
			writer.appendBytes(strBytes);
		}
		return;
	}
	if (val instanceof Date) {
		writer.appendUint8(52);
		writer.appendInt64(BigInt(val.getTime()) * 1000n);
		return;
	}
	if (val instanceof Uint8Array) {
		writer.appendUint8(60);
		writer.appendUint32(val.length);
		writer.appendBytes(val);
		return;
	}
	if (Array.isArray(val)) {
		writeVariantArray(val, writer, keyIndex, scratchWriters);
		return;
	}
	if (typeof val === "object") {
		writeVariantObject(val, writer, keyIndex, scratchWriters);
		return;
	}
	throw new Error(`variant cannot encode value: ${val}`);
}
/**
* @param {Record<string, any>} obj
* @param {ByteWriter} writer
* @param {Map<string, number>} keyIndex
* @param {ByteWriter[]} scratchWriters
*/
function writeVariantObject(obj, writer, keyIndex, scratchWriters) {
	const entries = Object.keys(obj).filter((key) => obj[key] !== void 0).map((key) => {
		const id = keyIndex.get(key);
		if (id === void 0) throw new Error(`variant key not in dictionary: ${key}`);
		return {
			id,
			key
		};
	});
	entries.sort((a, b) => a.id - b.id);
	const numElements = entries.length;
	const idWidth = byteWidth(numElements > 0 ? entries[numElements - 1].id : 0);
	const scratch = scratchWriters.pop() ?? new ByteWriter(8);
	const offsets = new Array(numElements + 1);
	offsets[0] = 0;
	for (let i = 0; i < numElements; i++) {
		writeValue(obj[entries[i].key], scratch, keyIndex, scratchWriters);
		offsets[i + 1] = scratch.index;
	}
	const offsetWidth = byteWidth(offsets[numElements]);
	const isLarge = numElements > 255 ? 1 : 0;
	writer.appendUint8((offsetWidth - 1 | idWidth - 1 << 2 | isLarge << 4) << 2 | 2);
	if (isLarge) writer.appendUint32(numElements);
	else writer.appendUint8(numElements);
	for (const { id } of entries) appendUnsignedLE(writer, id, idWidth);
	for (const off of offsets) appendUnsignedLE(writer, off, offsetWidth);
	writer.appendBytes(scratch.getBytes());
	scratch.index = 0;
	scratch.offset = 0;
	scratchWriters.push(scratch);
}
/**
* @param {any[]} arr
* @param {ByteWriter} writer
* @param {Map<string, number>} keyIndex
* @param {ByteWriter[]} scratchWriters
*/
function writeVariantArray(arr, writer, keyIndex, scratchWriters) {
	const numElements = arr.length;
	const scratch = scratchWriters.pop() ?? new ByteWriter(8);
	const offsets = new Array(numElements + 1);
	offsets[0] = 0;
	for (let i = 0; i < numElements; i++) {
		writeValue(arr[i], scratch, keyIndex, scratchWriters);
		offsets[i + 1] = scratch.index;
	}
	const offsetWidth = byteWidth(offsets[numElements]);
	const isLarge = numElements > 255 ? 1 : 0;
	writer.appendUint8((offsetWidth - 1 | isLarge << 2) << 2 | 3);
	if (isLarge) writer.appendUint32(numElements);
	else writer.appendUint8(numElements);
	for (const off of offsets) appendUnsignedLE(writer, off, offsetWidth);
	writer.appendBytes(scratch.getBytes());
	scratch.index = 0;
	scratch.offset = 0;
	scratchWriters.push(scratch);
}
/**
* Determine the minimum byte width needed to represent a value.
*
* @param {number} maxValue
* @returns {number} 1, 2, 3, or 4
*/
function byteWidth(maxValue) {
	if (maxValue <= 255) return 1;
	if (maxValue <= 65535) return 2;
	if (maxValue <= 16777215) return 3;
	return 4;
}
/**
* Write an unsigned integer in little-endian format into a ByteWriter.
*
* @param {ByteWriter} writer
* @param {number} value
* @param {number} width byte width (1-4)
*/
function appendUnsignedLE(writer, value, width) {
	for (let i = 0; i < width; i++) writer.appendUint8(value >> i * 8 & 255);
}
// node_modules/hyparquet-writer/src/schema.js
/**
* Get the max repetition level for a given schema path.
*
* @param {SchemaElement[]} schemaPath
* @returns {number} max repetition level
*/
function getMaxRepetitionLevel(schemaPath) {
	let maxLevel = 0;
	for (const element of schemaPath) if (element.repetition_type === "REPEATED") maxLevel++;
	return maxLevel;
}
/**
* Create a function that resolves element paths against a schema.
* The schema tree is built once, so resolving every column of a wide schema
* costs O(columns) instead of the O(columns²) of calling getSchemaPath per column.
*
* @param {SchemaElement[]} schema
* @returns {(path: string[]) => SchemaTree[]} schema elements from the root to the named element
*/
function schemaPathResolver(schema) {
	const root = parquetSchema({ schema });
	/** @type {Map<SchemaTree, Map<string, SchemaTree>>} */
	const childrenByName = /* @__PURE__ */ new Map();
	return (path) => {
		let tree = root;
		const schemaPath = [tree];
		for (const part of path) {
			let children = childrenByName.get(tree);
			if (!children) {
				children = /* @__PURE__ */ new Map();
				for (const child of tree.children) if (!children.has(child.element.name)) children.set(child.element.name, child);
				childrenByName.set(tree, children);
			}
			const child = children.get(part);
			if (!child) throw new Error(`parquet schema element not found: ${path}`);
			schemaPath.push(child);
			tree = child;
		}
		return schemaPath;
	};
}
// node_modules/hyparquet-writer/src/splitstream.js
/**
* Write values using BYTE_STREAM_SPLIT encoding.
* This encoding writes all first bytes of values, then all second bytes, etc.
* Can improve compression for floating-point and fixed-width numeric data.
*
* @import {DecodedArray, ParquetType} from 'hyparquet'
* @import {Writer} from '../src/types.js'
* @param {Writer} writer
* @param {DecodedArray} values
* @param {ParquetType} type
* @param {number | undefined} typeLength
*/
function writeByteStreamSplit(writer, values, type, typeLength) {
	const count = values.length;
	/** @type {Uint8Array} */
	let bytes;
	/** @type {number} */
	let width;
	if (type === "FLOAT") {
		const typed = values instanceof Float32Array ? values : new Float32Array(numberArray(values));
		bytes = new Uint8Array(typed.buffer, typed.byteOffset, typed.byteLength);
		width = 4;
	} else if (type === "DOUBLE") {
		const typed = values instanceof Float64Array ? values : new Float64Array(numberArray(values));
		bytes = new Uint8Array(typed.buffer, typed.byteOffset, typed.byteLength);
		width = 8;
	} else if (type === "INT32") {
		const typed = values instanceof Int32Array ? values : new Int32Array(numberArray(values));
		bytes = new Uint8Array(typed.buffer, typed.byteOffset, typed.byteLength);
		width = 4;
	} else if (type === "INT64") {
		const typed = bigIntArray(values);
		bytes = new Uint8Array(typed.buffer, typed.byteOffset, typed.byteLength);
		width = 8;
	} else if (type === "FIXED_LEN_BYTE_ARRAY") {
		if (!typeLength) throw new Error("parquet byte_stream_split missing type_length");
		width = typeLength;
		bytes = new Uint8Array(count * width);
		for (let i = 0; i < count; i++) bytes.set(values[i], i * width);
	} else throw new Error(`parquet byte_stream_split unsupported type: ${type}`);
	for (let b = 0; b < width; b++) for (let i = 0; i < count; i++) writer.appendUint8(bytes[i * width + b]);
}
/**
* @param {DecodedArray} values
* @returns {number[]}
*/
function numberArray(values) {
	if (Array.isArray(values) && values.every((v) => typeof v === "number")) return values;
	throw new Error("Expected number array for BYTE_STREAM_SPLIT encoding");
}
/**
* @param {DecodedArray} values
* @returns {BigInt64Array}
*/
function bigIntArray(values) {
	if (values instanceof BigInt64Array) return values;
	if (Array.isArray(values) && values.every((v) => typeof v === "bigint")) return new BigInt64Array(values);
	throw new Error("Expected bigint array for BYTE_STREAM_SPLIT encoding");
}
// node_modules/hyparquet-writer/src/datapage.js
/**
* @param {Object} options
* @param {Writer} options.writer
* @param {ColumnEncoder} options.column
* @param {Encoding} options.encoding
* @param {PageData} options.pageData
* @returns {number} uncompressed page size including the header
*/
function writeDataPageV2({ writer, column, encoding, pageData }) {
	const { columnName, element, codec, compressors } = column;
	const { type, type_length, repetition_type } = element;
	if (!type) throw new Error(`column ${columnName} cannot determine type`);
	if (repetition_type === "REPEATED") throw new Error(`column ${columnName} repeated types not supported`);
	const levelWriter = new ByteWriter();
	const { definition_levels_byte_length, repetition_levels_byte_length, num_nulls, num_values, num_rows } = writeLevels(levelWriter, column, pageData);
	const nonnull = num_nulls ? pageData.values.filter((v) => v !== null && v !== void 0) : pageData.values;
	const page = new ByteWriter();
	if (encoding === "PLAIN") writePlain(page, nonnull, type, type_length);
	else if (encoding === "RLE") {
		if (type !== "BOOLEAN") throw new Error("RLE encoding only supported for BOOLEAN type");
		const rleData = new ByteWriter();
		writeRleBitPackedHybrid(rleData, nonnull, 1);
		page.appendUint32(rleData.offset);
		page.appendBytes(rleData.getBytes());
	} else if (encoding === "PLAIN_DICTIONARY" || encoding === "RLE_DICTIONARY") {
		let maxValue = 0;
		for (const v of nonnull) if (v > maxValue) maxValue = v;
		const bitWidth = Math.ceil(Math.log2(maxValue + 1));
		page.appendUint8(bitWidth);
		writeRleBitPackedHybrid(page, nonnull, bitWidth);
	} else if (encoding === "DELTA_BINARY_PACKED") {
		if (type !== "INT32" && type !== "INT64") throw new Error("DELTA_BINARY_PACKED encoding only supported for INT32 and INT64 types");
		deltaBinaryPack(page, nonnull, type);
	} else if (encoding === "DELTA_LENGTH_BYTE_ARRAY") {
		if (type !== "BYTE_ARRAY") throw new Error("DELTA_LENGTH_BYTE_ARRAY encoding only supported for BYTE_ARRAY type");
		deltaLengthByteArray(page, nonnull);
	} else if (encoding === "DELTA_BYTE_ARRAY") {
		if (type !== "BYTE_ARRAY") throw new Error("DELTA_BYTE_ARRAY encoding only supported for BYTE_ARRAY type");
		deltaByteArray(page, nonnull);
	} else if (encoding === "BYTE_STREAM_SPLIT") writeByteStreamSplit(page, nonnull, type, type_length);
	else throw new Error(`parquet unsupported encoding: ${encoding}`);
	const pageBytes = page.getBytes();
	const compressedBytes = compressors[codec]?.(pageBytes) ?? pageBytes;
	const headerStart = writer.offset;
	writePageHeader(writer, {
		type: "DATA_PAGE_V2",
		uncompressed_page_size: levelWriter.offset + page.offset,
		compressed_page_size: levelWriter.offset + compressedBytes.length,
		data_page_header_v2: {
			num_values,
			num_nulls,
			num_rows,
			encoding,
			definition_levels_byte_length,
			repetition_levels_byte_length,
			is_compressed: !!codec
		}
	});
	const headerSize = writer.offset - headerStart;
	writer.appendBytes(levelWriter.getBytes());
	writer.appendBytes(compressedBytes);
	return headerSize + levelWriter.offset + page.offset;
}
/**
* @param {Writer} writer
* @param {PageHeader} header
*/
function writePageHeader(writer, header) {
	serializeTCompactProtocol(writer, {
		field_1: PageTypes.indexOf(header.type),
		field_2: header.uncompressed_page_size,
		field_3: header.compressed_page_size,
		field_4: header.crc,
		field_5: header.data_page_header && {
			field_1: header.data_page_header.num_values,
			field_2: Encodings.indexOf(header.data_page_header.encoding),
			field_3: Encodings.indexOf(header.data_page_header.definition_level_encoding),
			field_4: Encodings.indexOf(header.data_page_header.repetition_level_encoding)
		},
		field_7: header.dictionary_page_header && {
			field_1: header.dictionary_page_header.num_values,
			field_2: Encodings.indexOf(header.dictionary_page_header.encoding)
		},
		field_8: header.data_page_header_v2 && {
			field_1: header.data_page_header_v2.num_values,
			field_2: header.data_page_header_v2.num_nulls,
			field_3: header.data_page_header_v2.num_rows,
			field_4: Encodings.indexOf(header.data_page_header_v2.encoding),
			field_5: header.data_page_header_v2.definition_levels_byte_length,
			field_6: header.data_page_header_v2.repetition_levels_byte_length,
			field_7: header.data_page_header_v2.is_compressed ? void 0 : false
		}
	});
}
/**
* @import {DecodedArray, Encoding, PageHeader} from 'hyparquet'
* @import {ColumnEncoder, PageData, ThriftObject, Writer} from '../src/types.js'
* @param {Writer} writer
* @param {ColumnEncoder} column
* @param {PageData} dataPage
* @returns {{
*   definition_levels_byte_length: number
*   repetition_levels_byte_length: number
*   num_values: number
*   num_nulls: number
*   num_rows: number
* }}
*/
function writeLevels(writer, column, dataPage) {
	const { schemaPath } = column;
	const { values, definitionLevels, repetitionLevels, maxDefinitionLevel } = dataPage;
	const num_values = definitionLevels.length || values.length;
	let num_nulls = 0;
	let num_rows = 0;
	if (repetitionLevels.length) {
		for (let i = 0; i < repetitionLevels.length; i++) if (repetitionLevels[i] === 0) num_rows++;
	} else num_rows = values.length;
	if (definitionLevels.length) {
		for (let i = 0; i < definitionLevels.length; i++) if (definitionLevels[i] < maxDefinitionLevel) num_nulls++;
	}
	const maxRepetitionLevel = getMaxRepetitionLevel(schemaPath);
	let repetition_levels_byte_length = 0;
	if (maxRepetitionLevel) repetition_levels_byte_length = writeRleBitPackedHybrid(writer, repetitionLevels, Math.ceil(Math.log2(maxRepetitionLevel + 1)));
	let definition_levels_byte_length = 0;
	if (maxDefinitionLevel) definition_levels_byte_length = writeRleBitPackedHybrid(writer, definitionLevels, Math.ceil(Math.log2(maxDefinitionLevel + 1)));
	return {
		definition_levels_byte_length,
		repetition_levels_byte_length,
		num_values,
		num_nulls,
		num_rows
	};
}
// node_modules/hyparquet-writer/src/dictionary.js
var textEncoder = new TextEncoder();
/**
* @import {DecodedArray, Encoding, ParquetType} from 'hyparquet'
* @import {ColumnEncoder, Writer} from './types.js'
*/
/**
* Estimate the byte size of a value for page size calculation.
*
* @param {any} value
* @param {ParquetType} type
* @param {number} [type_length]
* @returns {number}
*/
function estimateValueSize(value, type, type_length) {
	if (value === null || value === void 0) return 0;
	if (type === "BOOLEAN") return .125;
	if (type === "INT32" || type === "FLOAT") return 4;
	if (type === "INT64" || type === "DOUBLE") return 8;
	if (type === "INT96") return 12;
	if (type === "FIXED_LEN_BYTE_ARRAY") return type_length ?? 0;
	if (type === "BYTE_ARRAY") {
		if (value instanceof Uint8Array) return value.byteLength;
		if (typeof value === "string") return value.length;
	}
	return 0;
}
/**
* FNV-1a hash of a byte array, used to bucket byte-array dictionary values
* without allocating a string key per value.
*
* @param {Uint8Array} bytes
* @returns {number}
*/
function hashBytes(bytes) {
	let h = 2166136261;
	for (let i = 0; i < bytes.length; i++) {
		h ^= bytes[i];
		h = Math.imul(h, 16777619);
	}
	return h >>> 0;
}
/**
* @param {Uint8Array} a
* @param {Uint8Array} b
* @returns {boolean}
*/
function bytesEqual(a, b) {
	if (a.length !== b.length) return false;
	for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
	return true;
}
var sampleRejectionRatio = .9;
/**
* Decide whether to dictionary-encode a column, and if so build the dictionary
* and per-row indexes. Returns {} to fall back to plain encoding.
*
* Sampling is spread across the complete column chunk and weighted by value
* bytes. It only rejects columns whose sampled distinct bytes exceed 90% of
* sampled value bytes. Other columns are built and kept when distinct-value
* bytes are at most half the total value bytes, so dictionary encoding offers
* a material win. There is no fixed size cap by default; a low-cardinality
* column of large values is exactly where a big dictionary pays for itself,
* and capping it at page size caused 20-100x file bloat (#35). Callers can
* still impose a hard cap via `dictionarySize`.
*
* When `encoding` explicitly requests RLE_DICTIONARY, the dictionary is built
* unconditionally (no sampling, no size or win checks), so the written pages
* always match the requested encoding.
*
* @param {DecodedArray} values
* @param {ParquetType} type
* @param {number | undefined} type_length
* @param {Encoding | undefined} encoding
* @param {number} [dictionarySize] - optional hard cap on distinct-value bytes
* @param {boolean} [required] - reject null or undefined values
* @returns {{ dictionary?: any[], indexes?: number[] }}
*/
function useDictionary(values, type, type_length, encoding, dictionarySize, required) {
	if (encoding && encoding !== "RLE_DICTIONARY") return {};
	if (type === "BOOLEAN") return {};
	const forced = encoding === "RLE_DICTIONARY";
	const byteArrayPrefixSize = type === "BYTE_ARRAY" ? 4 : 0;
	if (!forced) {
		const sampleSize = Math.min(values.length, 1e3);
		const sampleSizes = /* @__PURE__ */ new Map();
		const sampleHashes = /* @__PURE__ */ new Map();
		let sampleDictionarySize = 0;
		let sampleTotalSize = 0;
		for (let i = 0; i < sampleSize; i++) {
			const value = values[sampleSize === 1 ? 0 : Math.floor(i * (values.length - 1) / (sampleSize - 1))];
			let key = value;
			if (value instanceof Uint8Array) {
				key = sampleHashes.get(value);
				if (key === void 0) {
					key = hashBytes(value);
					sampleHashes.set(value, key);
				}
			}
			let valueSize = sampleSizes.get(key);
			if (valueSize === void 0) {
				valueSize = estimateValueSize(value, type, type_length) + (value === null || value === void 0 ? 0 : byteArrayPrefixSize);
				sampleSizes.set(key, valueSize);
				sampleDictionarySize += valueSize;
			}
			sampleTotalSize += valueSize;
		}
		if (!sampleTotalSize || sampleDictionarySize / sampleTotalSize > sampleRejectionRatio) return {};
	}
	/** @type {any[]} */
	const dictionary = [];
	/** @type {number[]} */
	const indexes = new Array(values.length);
	/** @type {Map<any, number>} */
	const valueIndex = /* @__PURE__ */ new Map();
	/** @type {number[]} */
	const valueSizes = [];
	/** @type {Map<number, number[]>} */
	const hashBuckets = /* @__PURE__ */ new Map();
	let dictSize = 0;
	let physicalDictSize = 0;
	let totalSize = 0;
	let nonNullCount = 0;
	for (let i = 0; i < values.length; i++) {
		const value = values[i];
		if (value === null || value === void 0) {
			if (required) throw new Error("parquet required value is undefined");
			continue;
		}
		nonNullCount++;
		let index;
		if (value instanceof Uint8Array) {
			totalSize += value.byteLength;
			index = valueIndex.get(value);
			if (index !== void 0) {
				indexes[i] = index;
				continue;
			}
			const hash = hashBytes(value);
			const bucket = hashBuckets.get(hash);
			if (bucket) {
				for (const j of bucket) if (bytesEqual(dictionary[j], value)) {
					index = j;
					break;
				}
			}
			if (index === void 0) {
				dictSize += value.byteLength;
				if (!forced && dictionarySize) {
					physicalDictSize += value.byteLength;
					if (physicalDictSize > dictionarySize) return {};
				}
				index = dictionary.length;
				dictionary.push(value);
				if (bucket) bucket.push(index);
				else hashBuckets.set(hash, [index]);
			}
			valueIndex.set(value, index);
		} else {
			index = valueIndex.get(value);
			const valueSize = index === void 0 ? estimateValueSize(value, type, type_length) : valueSizes[index];
			totalSize += valueSize;
			if (index === void 0) {
				dictSize += valueSize;
				if (!forced && dictionarySize) {
					physicalDictSize += typeof value === "string" ? textEncoder.encode(value).byteLength : valueSize;
					if (physicalDictSize > dictionarySize) return {};
				}
				index = dictionary.length;
				dictionary.push(value);
				valueSizes[index] = valueSize;
				valueIndex.set(value, index);
			}
		}
		indexes[i] = index;
	}
	const bitWidth = Math.ceil(Math.log2(dictionary.length));
	const indexSize = Math.ceil(nonNullCount * bitWidth / 8);
	const plainSize = totalSize + nonNullCount * byteArrayPrefixSize;
	const dictionaryValueSize = dictSize + dictionary.length * byteArrayPrefixSize;
	if (!forced && 2 * (dictionaryValueSize + indexSize) > plainSize) return {};
	return {
		dictionary,
		indexes
	};
}
/**
* @param {Writer} writer
* @param {ColumnEncoder} column
* @param {DecodedArray} dictionary
* @returns {number} uncompressed page size including the header
*/
function writeDictionaryPage(writer, column, dictionary) {
	const { element, codec, compressors } = column;
	const { type, type_length } = element;
	if (!type) throw new Error(`column ${column.columnName} cannot determine type`);
	const dictionaryPage = new ByteWriter();
	writePlain(dictionaryPage, dictionary, type, type_length);
	const dictionaryBytes = dictionaryPage.getBytes();
	const compressedBytes = compressors[codec]?.(dictionaryBytes) ?? dictionaryBytes;
	const headerStart = writer.offset;
	writePageHeader(writer, {
		type: "DICTIONARY_PAGE",
		uncompressed_page_size: dictionaryBytes.byteLength,
		compressed_page_size: compressedBytes.byteLength,
		dictionary_page_header: {
			num_values: dictionary.length,
			encoding: "PLAIN"
		}
	});
	const headerSize = writer.offset - headerStart;
	writer.appendBytes(compressedBytes);
	return headerSize + dictionaryBytes.byteLength;
}
// node_modules/hyparquet-writer/src/geospatial.js
/**
* Compute geospatial statistics for GEOMETRY and GEOGRAPHY columns.
*
* @import {BoundingBox, DecodedArray, Geometry, GeospatialStatistics} from 'hyparquet/src/types.js'
* @param {DecodedArray} values
* @returns {GeospatialStatistics | undefined}
*/
function geospatialStatistics(values) {
	/** @type {Set<number>} */
	const typeCodes = /* @__PURE__ */ new Set();
	/** @type {Partial<BoundingBox> | undefined} */
	let partial;
	for (const value of values) {
		if (value === null || value === void 0) continue;
		if (typeof value !== "object") throw new Error("geospatial column expects GeoJSON geometries");
		partial = extendBoundsFromGeometry(partial, value);
		typeCodes.add(geometryTypeCodeWithDimension(value));
	}
	/** @type {BoundingBox | undefined} */
	let bbox;
	const { xmin, ymin, xmax, ymax } = partial ?? {};
	if (xmin !== void 0 && ymin !== void 0 && xmax !== void 0 && ymax !== void 0) bbox = {
		...partial,
		xmin,
		ymin,
		xmax,
		ymax
	};
	if (typeCodes.size || bbox) return {
		bbox,
		geospatial_types: typeCodes.size ? Array.from(typeCodes).sort((a, b) => a - b) : []
	};
}
/**
* @param {Partial<BoundingBox> | undefined} bbox
* @param {Geometry} geometry
* @returns {Partial<BoundingBox> | undefined}
*/
function extendBoundsFromGeometry(bbox, geometry) {
	if (geometry.type === "GeometryCollection") {
		for (const child of geometry.geometries || []) bbox = extendBoundsFromGeometry(bbox, child);
		return bbox;
	}
	return extendBoundsFromCoordinates(bbox, geometry.coordinates);
}
/**
* Recurse through nested coordinate arrays. At a leaf position [x,y,(z),(m)],
* each dimension is filtered independently. NaN/non-finite values in one
* dimension does not skip the others.
* @param {Partial<BoundingBox> | undefined} bbox
* @param {any[]} coordinates
* @returns {Partial<BoundingBox> | undefined}
*/
function extendBoundsFromCoordinates(bbox, coordinates) {
	if (typeof coordinates[0] === "number") {
		bbox = updateAxis(bbox, "xmin", "xmax", coordinates[0]);
		bbox = updateAxis(bbox, "ymin", "ymax", coordinates[1]);
		if (coordinates.length > 2) bbox = updateAxis(bbox, "zmin", "zmax", coordinates[2]);
		if (coordinates.length > 3) bbox = updateAxis(bbox, "mmin", "mmax", coordinates[3]);
		return bbox;
	}
	for (const child of coordinates) bbox = extendBoundsFromCoordinates(bbox, child);
	return bbox;
}
/**
* @param {Partial<BoundingBox> | undefined} bbox
* @param {'xmin' | 'ymin' | 'zmin' | 'mmin'} minKey
* @param {'xmax' | 'ymax' | 'zmax' | 'mmax'} maxKey
* @param {number | undefined} value
* @returns {Partial<BoundingBox> | undefined}
*/
function updateAxis(bbox, minKey, maxKey, value) {
	if (value === void 0 || !Number.isFinite(value)) return bbox;
	if (!bbox) bbox = {};
	const min = bbox[minKey];
	const max = bbox[maxKey];
	if (min === void 0 || value < min) bbox[minKey] = value;
	if (max === void 0 || value > max) bbox[maxKey] = value;
	return bbox;
}
/**
* @param {Geometry} geometry
* @returns {number}
*/
function geometryTypeCodeWithDimension(geometry) {
	const base = geometryTypeCodes[geometry.type];
	if (base === void 0) throw new Error(`unknown geometry type: ${geometry.type}`);
	const dim = inferGeometryDimensions$1(geometry);
	if (dim === 2) return base;
	if (dim === 3) return base + 1e3;
	if (dim === 4) return base + 3e3;
	throw new Error(`unsupported geometry dimensions: ${dim}`);
}
var geometryTypeCodes = {
	Point: 1,
	LineString: 2,
	Polygon: 3,
	MultiPoint: 4,
	MultiLineString: 5,
	MultiPolygon: 6,
	GeometryCollection: 7
};
/**
* Determine the maximum coordinate dimensions for the geometry.
* @param {Geometry} geometry
* @returns {number}
*/
function inferGeometryDimensions$1(geometry) {
	if (geometry.type === "GeometryCollection") {
		let maxDim = 0;
		for (const child of geometry.geometries || []) maxDim = Math.max(maxDim, inferGeometryDimensions$1(child));
		return maxDim || 2;
	}
	return inferCoordinateDimensions$1(geometry.coordinates);
}
/**
* @param {any[]} value
* @returns {number}
*/
function inferCoordinateDimensions$1(value) {
	if (!value.length) return 2;
	if (typeof value[0] === "number") return value.length;
	let maxDim = 0;
	for (const item of value) maxDim = Math.max(maxDim, inferCoordinateDimensions$1(item));
	return maxDim || 2;
}
// node_modules/hyparquet-writer/src/wkb.js
/**
* @import {Geometry, Position} from 'hyparquet/src/types.js'
*/
/**
* Serialize a GeoJSON geometry into ISO WKB.
*
* @param {Geometry} geometry
* @returns {Uint8Array}
*/
function geojsonToWkb(geometry) {
	const writer = new ByteWriter();
	writeGeometry(writer, geometry);
	return writer.getBytes();
}
/**
* @param {ByteWriter} writer
* @param {Geometry} geometry
*/
function writeGeometry(writer, geometry) {
	if (typeof geometry !== "object") throw new Error("geometry values must be GeoJSON geometries");
	const typeCode = geometryTypeCode(geometry.type);
	const dim = inferGeometryDimensions(geometry);
	let flag = 0;
	if (dim === 3) flag = 1;
	else if (dim === 4) flag = 3;
	else if (dim > 4) throw new Error(`unsupported geometry dimensions: ${dim}`);
	writer.appendUint8(1);
	writer.appendUint32(typeCode + flag * 1e3);
	if (geometry.type === "Point") writePosition(writer, geometry.coordinates, dim);
	else if (geometry.type === "LineString") writeLine(writer, geometry.coordinates, dim);
	else if (geometry.type === "Polygon") {
		writer.appendUint32(geometry.coordinates.length);
		for (const ring of geometry.coordinates) writeLine(writer, ring, dim);
	} else if (geometry.type === "MultiPoint") {
		writer.appendUint32(geometry.coordinates.length);
		for (const coordinates of geometry.coordinates) writeGeometry(writer, {
			type: "Point",
			coordinates
		});
	} else if (geometry.type === "MultiLineString") {
		writer.appendUint32(geometry.coordinates.length);
		for (const coordinates of geometry.coordinates) writeGeometry(writer, {
			type: "LineString",
			coordinates
		});
	} else if (geometry.type === "MultiPolygon") {
		writer.appendUint32(geometry.coordinates.length);
		for (const coordinates of geometry.coordinates) writeGeometry(writer, {
			type: "Polygon",
			coordinates
		});
	} else if (geometry.type === "GeometryCollection") {
		writer.appendUint32(geometry.geometries.length);
		for (const child of geometry.geometries) writeGeometry(writer, child);
	} else throw new Error("unsupported geometry type");
}
/**
* @param {ByteWriter} writer
* @param {Position} position
* @param {number} dim
*/
function writePosition(writer, position, dim) {
	if (position.length < dim) throw new Error("geometry position dimensions mismatch");
	for (let i = 0; i < dim; i++) writer.appendFloat64(position[i]);
}
/**
* @param {ByteWriter} writer
* @param {Position[]} coordinates
* @param {number} dim
*/
function writeLine(writer, coordinates, dim) {
	writer.appendUint32(coordinates.length);
	for (const position of coordinates) writePosition(writer, position, dim);
}
/**
* @param {Geometry['type']} type
* @returns {number}
*/
function geometryTypeCode(type) {
	if (type === "Point") return 1;
	if (type === "LineString") return 2;
	if (type === "Polygon") return 3;
	if (type === "MultiPoint") return 4;
	if (type === "MultiLineString") return 5;
	if (type === "MultiPolygon") return 6;
	if (type === "GeometryCollection") return 7;
	throw new Error(`unknown geometry type: ${type}`);
}
/**
* Determine the maximum coordinate dimensions for the geometry.
*
* @param {Geometry} geometry
* @returns {number}
*/
function inferGeometryDimensions(geometry) {
	if (geometry.type === "GeometryCollection") {
		let maxDim = 0;
		for (const child of geometry.geometries) maxDim = Math.max(maxDim, inferGeometryDimensions(child));
		return maxDim || 2;
	}
	return inferCoordinateDimensions(geometry.coordinates);
}
/**
* @param {any} value
* @returns {number}
*/
function inferCoordinateDimensions(value) {
	if (!Array.isArray(value)) return 2;
	if (!value.length) return 2;
	if (typeof value[0] === "number") return value.length;
	let maxDim = 0;
	for (const item of value) maxDim = Math.max(maxDim, inferCoordinateDimensions(item));
	return maxDim || 2;
}
// node_modules/hyparquet-writer/src/unconvert.js
/**
* @import {DecodedArray, SchemaElement} from 'hyparquet'
* @import {MinMaxType} from 'hyparquet/src/types.js'
* @import {ChunkStatistics, ThriftObject} from '../src/types.js'
*/
var dayMillis = 864e5;
/**
* Convert values while reusing the result for repeated primitives or object
* references. This prevents repeated logical values from retaining a separate
* byte array for every row. The cache is released when conversion returns.
*
* @param {DecodedArray} values
* @param {(value: any) => any} convert
* @returns {any[]}
*/
function mapConverted(values, convert) {
	const cache = /* @__PURE__ */ new Map();
	return Array.from(values, (value) => {
		if (cache.has(value)) return cache.get(value);
		const result = convert(value);
		cache.set(value, result);
		return result;
	});
}
/**
* Convert from rich to primitive types.
*
* @param {SchemaElement} element
* @param {DecodedArray} values
* @returns {DecodedArray}
*/
function unconvert(element, values) {
	const { type, converted_type: ctype, logical_type: ltype } = element;
	if (ctype === "DECIMAL") {
		const factor = 10 ** (element.scale || 0);
		return Array.from(values, (v) => {
			if (v === null || v === void 0) return v;
			if (typeof v === "bigint") return unconvertDecimal(element, v);
			if (typeof v !== "number") throw new Error("DECIMAL must be a number or bigint");
			return unconvertDecimal(element, BigInt(Math.round(v * factor)));
		});
	}
	if (ctype === "DATE") return Array.from(values).map((v) => {
		if (v instanceof Date) return Math.floor(v.getTime() / dayMillis);
		return v;
	});
	if (ctype === "TIMESTAMP_MILLIS") return Array.from(values).map((v) => {
		if (v === null || v === void 0) return v;
		if (v instanceof Date) return BigInt(v.getTime());
		return BigInt(v);
	});
	if (ctype === "TIMESTAMP_MICROS") return Array.from(values).map((v) => {
		if (v === null || v === void 0) return v;
		if (v instanceof Date) return BigInt(v.getTime() * 1e3);
		return BigInt(v);
	});
	if (ctype === "JSON") {
		if (!Array.isArray(values)) throw new Error("JSON must be an array");
		const encoder = new TextEncoder();
		return mapConverted(values, (v) => v === null || v === void 0 ? v : encoder.encode(JSON.stringify(toJson(v))));
	}
	if (ctype === "UTF8") {
		if (!Array.isArray(values)) throw new Error("strings must be an array");
		const encoder = new TextEncoder();
		return values.map((v) => typeof v === "string" ? encoder.encode(v) : v);
	}
	if (ctype === "UINT_32" || ltype?.type === "INTEGER" && ltype.bitWidth === 32 && !ltype.isSigned) {
		if (values instanceof Uint32Array) return values;
		if (values instanceof Int32Array) return new Uint32Array(values.buffer, values.byteOffset, values.length);
		return Array.from(values).map((v) => {
			if (v === null || v === void 0) return v;
			if (!Number.isSafeInteger(v)) throw new Error("expected integer value, got " + v);
			if (v < 0 || v > 4294967295) throw new Error("expected uint32 value, got " + v);
			if (v > 2147483647) return v - 4294967296;
			return v;
		});
	}
	if (ltype?.type === "FLOAT16") {
		if (type !== "FIXED_LEN_BYTE_ARRAY") throw new Error("FLOAT16 must be FIXED_LEN_BYTE_ARRAY type");
		if (element.type_length !== 2) throw new Error("FLOAT16 expected type_length to be 2 bytes");
		return Array.from(values).map(unconvertFloat16);
	}
	if (ltype?.type === "UUID") {
		if (!Array.isArray(values)) throw new Error("UUID must be an array");
		if (type !== "FIXED_LEN_BYTE_ARRAY") throw new Error("UUID must be FIXED_LEN_BYTE_ARRAY type");
		if (element.type_length !== 16) throw new Error("UUID expected type_length to be 16 bytes");
		return values.map(unconvertUuid);
	}
	if (ltype?.type === "TIMESTAMP") return Array.from(values).map((v) => {
		if (v === null || v === void 0) return v;
		if (v instanceof Date) {
			const millis = BigInt(v.getTime());
			if (ltype.unit === "NANOS") return millis * 1000000n;
			if (ltype.unit === "MICROS") return millis * 1000n;
			return millis;
		}
		return BigInt(v);
	});
	if (ltype?.type === "GEOMETRY" || ltype?.type === "GEOGRAPHY") {
		if (!Array.isArray(values)) throw new Error("geometry must be an array");
		return mapConverted(values, (v) => {
			if (v === null || v === void 0) return v;
			return geojsonToWkb(v);
		});
	}
	return values;
}
/**
* @param {Uint8Array | string | undefined} value
* @returns {Uint8Array | undefined}
*/
function unconvertUuid(value) {
	if (value === void 0 || value === null) return;
	if (value instanceof Uint8Array) return value;
	if (typeof value === "string") {
		if (!/^[0-9a-f]{8}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{12}$/i.test(value)) throw new Error("UUID must be a valid UUID string");
		value = value.replace(/-/g, "").toLowerCase();
		const bytes = /* @__PURE__ */ new Uint8Array(16);
		for (let i = 0; i < 16; i++) bytes[i] = parseInt(value.slice(i * 2, i * 2 + 2), 16);
		return bytes;
	}
	throw new Error("UUID must be a string or Uint8Array");
}
var STATS_TRUNCATE_LENGTH = 16;
var utf8Decoder = new TextDecoder("utf-8", {
	fatal: true,
	ignoreBOM: true
});
/**
* Truncate a byte-array statistic to at most `length` bytes.
*
* A prefix is a valid lower bound (min). A max is rounded up to a short value
* that is still >= the original. STRING and ENUM bounds are cut on a code point
* boundary so they stay valid UTF-8. A prefix of a JSON or BSON document is not
* a valid document, so those bounds are kept whole. When no short upper bound
* exists, the max is kept whole.
*
* @param {Uint8Array} bytes
* @param {SchemaElement} element
* @param {boolean} isMax
* @param {number} length
* @returns {Uint8Array}
*/
function truncateStatistic(bytes, element, isMax, length) {
	if (bytes.length <= length || !isTruncatable(element)) return bytes;
	return (isUtf8(element) ? truncateUtf8(bytes, isMax, length) : truncateBytes(bytes, isMax, length)) ?? bytes;
}
/**
* @param {SchemaElement} element
* @returns {boolean}
*/
function isTruncatable({ type, converted_type, logical_type }) {
	if (type !== "BYTE_ARRAY") return false;
	if (converted_type === "DECIMAL" || converted_type === "JSON" || converted_type === "BSON") return false;
	return logical_type?.type !== "JSON" && logical_type?.type !== "BSON";
}
/**
* @param {SchemaElement} element
* @returns {boolean}
*/
function isUtf8({ converted_type, logical_type }) {
	return converted_type === "UTF8" || converted_type === "ENUM" || logical_type?.type === "STRING" || logical_type?.type === "ENUM";
}
/**
* Byte-wise truncation. A max increments the last byte that is < 0xFF after
* dropping trailing 0xFF bytes.
*
* @param {Uint8Array} bytes
* @param {boolean} isMax
* @param {number} length
* @returns {Uint8Array | undefined}
*/
function truncateBytes(bytes, isMax, length) {
	const prefix = new Uint8Array(bytes.subarray(0, length));
	if (!isMax) return prefix;
	let i = prefix.length - 1;
	while (i >= 0 && prefix[i] === 255) i--;
	if (i < 0) return void 0;
	const rounded = prefix.slice(0, i + 1);
	rounded[i] += 1;
	return rounded;
}
/**
* UTF-8 truncation on a code point boundary. A max increments the last code
* point that has a successor fitting the length, skipping surrogates.
* Invalid UTF-8 falls back to byte-wise truncation.
*
* @param {Uint8Array} bytes
* @param {boolean} isMax
* @param {number} length
* @returns {Uint8Array | undefined}
*/
function truncateUtf8(bytes, isMax, length) {
	let end = length;
	while (end > 0 && (bytes[end] & 192) === 128) end--;
	if (!isMax) return new Uint8Array(bytes.subarray(0, end));
	let text;
	try {
		text = utf8Decoder.decode(bytes.subarray(0, end));
	} catch {
		return truncateBytes(bytes, isMax, length);
	}
	const codePoints = Array.from(text, (c) => c.codePointAt(0) ?? 0);
	const encoder = new TextEncoder();
	for (let i = codePoints.length - 1; i >= 0; i--) {
		end--;
		while (end > 0 && (bytes[end] & 192) === 128) end--;
		const code = codePoints[i];
		if (code === 1114111) continue;
		const next = code === 55295 ? 57344 : code + 1;
		const suffix = encoder.encode(String.fromCodePoint(next));
		if (end + suffix.length > length) continue;
		const rounded = new Uint8Array(end + suffix.length);
		rounded.set(bytes.subarray(0, end));
		rounded.set(suffix, end);
		return rounded;
	}
}
/**
* Returns false when a min/max value had to be truncated, otherwise undefined.
*
* We only emit the (optional) exactness flag when it is false; an absent flag
* means the value is exact, which keeps the footer small for untruncated columns.
*
* @param {MinMaxType | undefined} value
* @param {SchemaElement} element
* @param {boolean} isMax
* @param {number} length
* @returns {boolean | undefined}
*/
function minMaxIsExact(value, element, isMax, length) {
	if (value === void 0 || value === null) return void 0;
	if (!isTruncatable(element)) return void 0;
	const bytes = value instanceof Uint8Array ? value : new TextEncoder().encode(value.toString());
	return truncateStatistic(bytes, element, isMax, length) === bytes ? void 0 : false;
}
/**
* Uncovert from rich type to byte array for metadata statistics.
*
* @param {MinMaxType | undefined} value
* @param {SchemaElement} element
* @param {boolean} isMax whether this is a max value (rounds truncation up)
* @param {number} [truncateLength] max bytes for a byte-array value
* @returns {Uint8Array | undefined}
*/
function unconvertMinMax(value, element, isMax, truncateLength = STATS_TRUNCATE_LENGTH) {
	if (value === void 0 || value === null) return void 0;
	const { type, converted_type } = element;
	if (type === "BOOLEAN") return new Uint8Array([value ? 1 : 0]);
	if (element.logical_type?.type === "UUID" && (typeof value === "string" || value instanceof Uint8Array)) return unconvertUuid(value);
	if (converted_type === "DECIMAL") {
		if (typeof value !== "number" && typeof value !== "bigint") throw new Error("DECIMAL must be a number or bigint");
		const factor = 10 ** (element.scale || 0);
		const out = unconvertDecimal(element, typeof value === "bigint" ? value : BigInt(Math.round(value * factor)));
		if (out instanceof Uint8Array) return out;
		if (typeof out === "number") {
			const buffer = /* @__PURE__ */ new ArrayBuffer(4);
			new DataView(buffer).setInt32(0, out, true);
			return new Uint8Array(buffer);
		}
		if (typeof out === "bigint") {
			const buffer = /* @__PURE__ */ new ArrayBuffer(8);
			new DataView(buffer).setBigInt64(0, out, true);
			return new Uint8Array(buffer);
		}
	}
	if (element.logical_type?.type === "FLOAT16" && typeof value === "number") return unconvertFloat16(value);
	if (type === "BYTE_ARRAY" || type === "FIXED_LEN_BYTE_ARRAY") return truncateStatistic(value instanceof Uint8Array ? value : new TextEncoder().encode(value.toString()), element, isMax, truncateLength);
	if (type === "FLOAT" && typeof value === "number") {
		const buffer = /* @__PURE__ */ new ArrayBuffer(4);
		new DataView(buffer).setFloat32(0, value, true);
		return new Uint8Array(buffer);
	}
	if (type === "DOUBLE" && typeof value === "number") {
		const buffer = /* @__PURE__ */ new ArrayBuffer(8);
		new DataView(buffer).setFloat64(0, value, true);
		return new Uint8Array(buffer);
	}
	if (type === "INT32" && typeof value === "number") {
		const buffer = /* @__PURE__ */ new ArrayBuffer(4);
		new DataView(buffer).setInt32(0, value, true);
		return new Uint8Array(buffer);
	}
	if (type === "INT64" && (typeof value === "bigint" || typeof value === "number" && Number.isInteger(value))) {
		const buffer = /* @__PURE__ */ new ArrayBuffer(8);
		new DataView(buffer).setBigInt64(0, BigInt(value), true);
		return new Uint8Array(buffer);
	}
	if (type === "INT32" && converted_type === "DATE" && value instanceof Date) {
		const buffer = /* @__PURE__ */ new ArrayBuffer(4);
		new DataView(buffer).setInt32(0, Math.floor(value.getTime() / dayMillis), true);
		return new Uint8Array(buffer);
	}
	if (type === "INT64" && converted_type === "TIMESTAMP_MILLIS" && value instanceof Date) {
		const buffer = /* @__PURE__ */ new ArrayBuffer(8);
		new DataView(buffer).setBigInt64(0, BigInt(value.getTime()), true);
		return new Uint8Array(buffer);
	}
	if (type === "INT64" && converted_type === "TIMESTAMP_MICROS" && value instanceof Date) {
		const buffer = /* @__PURE__ */ new ArrayBuffer(8);
		new DataView(buffer).setBigInt64(0, BigInt(value.getTime() * 1e3), true);
		return new Uint8Array(buffer);
	}
	if (type === "INT64" && element.logical_type?.type === "TIMESTAMP" && value instanceof Date) {
		const millis = BigInt(value.getTime());
		const { unit } = element.logical_type;
		let bigintValue = millis;
		if (unit === "NANOS") bigintValue = millis * 1000000n;
		else if (unit === "MICROS") bigintValue = millis * 1000n;
		const buffer = /* @__PURE__ */ new ArrayBuffer(8);
		new DataView(buffer).setBigInt64(0, bigintValue, true);
		return new Uint8Array(buffer);
	}
	throw new Error(`unsupported type for statistics: ${type} with value ${value}`);
}
/**
* @param {ChunkStatistics} stats
* @param {SchemaElement} element
* @param {number} [truncateLength] max bytes for a byte-array min/max
* @returns {ThriftObject}
*/
function unconvertStatistics(stats, element, truncateLength = STATS_TRUNCATE_LENGTH) {
	return {
		field_1: unconvertMinMax(stats.max, element, true, truncateLength),
		field_2: unconvertMinMax(stats.min, element, false, truncateLength),
		field_3: stats.null_count,
		field_4: stats.distinct_count,
		field_5: unconvertMinMax(stats.max_value, element, true, truncateLength),
		field_6: unconvertMinMax(stats.min_value, element, false, truncateLength),
		field_7: stats.is_max_value_exact ?? minMaxIsExact(stats.max_value ?? stats.max, element, true, truncateLength),
		field_8: stats.is_min_value_exact ?? minMaxIsExact(stats.min_value ?? stats.min, element, false, truncateLength),
		field_9: stats.nan_count
	};
}
/**
* @param {SchemaElement} element
* @param {bigint} value
* @returns {number | bigint | Uint8Array}
*/
function unconvertDecimal({ type, type_length }, value) {
	if (type === "INT32") return Number(value);
	if (type === "INT64") return value;
	if (type === "FIXED_LEN_BYTE_ARRAY" && !type_length) throw new Error("fixed length byte array type_length is required");
	if (!type_length && !value) return /* @__PURE__ */ new Uint8Array();
	const bytes = [];
	while (true) {
		const byte = Number(value & 255n);
		bytes.unshift(byte);
		value >>= 8n;
		if (type_length) {
			if (bytes.length >= type_length) break;
		} else {
			const sign = byte & 128;
			if (!sign && value === 0n || sign && value === -1n) break;
		}
	}
	return new Uint8Array(bytes);
}
/**
* @param {number | undefined} value
* @returns {Uint8Array | undefined}
*/
function unconvertFloat16(value) {
	if (value === void 0 || value === null) return;
	if (typeof value !== "number") throw new Error("parquet float16 expected number value");
	if (Number.isNaN(value)) return new Uint8Array([0, 126]);
	const sign = value < 0 || Object.is(value, -0) ? 1 : 0;
	const abs = Math.abs(value);
	if (!isFinite(abs)) return new Uint8Array([0, sign << 7 | 124]);
	if (abs === 0) return new Uint8Array([0, sign << 7]);
	if (abs >= 65520) return new Uint8Array([0, sign << 7 | 124]);
	let exponent = -14;
	if (abs >= 2 ** -14) {
		const view = /* @__PURE__ */ new DataView(/* @__PURE__ */ new ArrayBuffer(8));
		view.setFloat64(0, abs);
		exponent = (view.getUint32(0) >>> 20 & 2047) - 1023;
	}
	const scaled = abs / 2 ** (exponent - 10);
	let significand = Math.floor(scaled);
	const remainder = scaled - significand;
	if (remainder > .5 || remainder === .5 && significand % 2) significand++;
	const magnitude = abs < 2 ** -14 ? significand : (exponent + 14) * 1024 + significand;
	const bits16 = sign << 15 | magnitude;
	return new Uint8Array([bits16 & 255, bits16 >> 8]);
}
// node_modules/hyparquet-writer/src/column.js
/**
* @import {ColumnChunk, DecodedArray, Encoding, OffsetIndex, ParquetType, SchemaElement} from 'hyparquet'
* @import {PageEncodingStats} from 'hyparquet/src/types.js'
* @import {ChunkStatistics, ColumnEncoder, PageColumnIndex, PageData, Writer} from '../src/types.js'
*/
/**
* Write a column chunk to the writer.
*
* @param {object} options
* @param {Writer} options.writer
* @param {ColumnEncoder} options.column
* @param {PageData} options.pageData
* @returns {{ chunk: ColumnChunk, columnIndex?: PageColumnIndex, offsetIndex?: OffsetIndex, bloomFilter?: Uint32Array }}
*/
function writeColumn({ writer, column, pageData }) {
	const { columnName, element, schemaPath, stats, pageSize, dictionarySize, encoding: userEncoding } = column;
	const { type, type_length } = element;
	if (!type) throw new Error(`column ${columnName} cannot determine type`);
	const { values, definitionLevels, repetitionLevels, maxDefinitionLevel } = pageData;
	const offsetStart = writer.offset;
	let uncompressedSize = 0;
	/** @type {Encoding[]} */
	const encodings = [];
	const isGeospatial = element?.logical_type?.type === "GEOMETRY" || element?.logical_type?.type === "GEOGRAPHY";
	const geospatial_statistics = stats && isGeospatial ? geospatialStatistics(values) : void 0;
	let bloomFilter;
	if (column.bloomFilter) {
		const builder = new BloomBuilder(element, typeof column.bloomFilter === "object" ? column.bloomFilter : void 0);
		for (const v of values) builder.insert(v);
		bloomFilter = builder.finalize();
	}
	/** @type {bigint | undefined} */
	let dictionary_page_offset;
	const selectPhysical = element.converted_type !== "UTF8";
	const dictionaryValues = selectPhysical ? unconvert(element, values) : values;
	if (type === "INT64") {
		const unsigned = element.converted_type === "UINT_64" || element.logical_type?.type === "INTEGER" && !element.logical_type.isSigned;
		const min = unsigned ? 0n : -(2n ** 63n);
		const max = unsigned ? 2n ** 64n - 1n : 2n ** 63n - 1n;
		for (const value of dictionaryValues) if (value !== null && value !== void 0 && (value < min || value > max)) throw new RangeError(`parquet INT64 value out of range: ${value}`);
	}
	const statisticsValues = element.converted_type === "JSON" ? dictionaryValues : values;
	const statistics = stats ? getStatistics(statisticsValues, element) : void 0;
	const { dictionary, indexes } = useDictionary(dictionaryValues, type, type_length, userEncoding, dictionarySize, maxDefinitionLevel === 0);
	/** @type {Encoding} */
	let encoding;
	/** @type {DecodedArray} */
	let writeValues;
	let writeType = type;
	if (dictionary && indexes) {
		writeValues = indexes;
		writeType = "INT32";
		encoding = "RLE_DICTIONARY";
		dictionary_page_offset = BigInt(writer.offset);
		const unconverted = selectPhysical ? dictionary : unconvert(element, dictionary);
		uncompressedSize += writeDictionaryPage(writer, column, unconverted);
		encodings.push("PLAIN");
	} else {
		writeValues = selectPhysical ? dictionaryValues : unconvert(element, values);
		encoding = userEncoding && userEncoding !== "RLE_DICTIONARY" ? userEncoding : type === "BOOLEAN" && values.length > 16 ? "RLE" : "PLAIN";
	}
	encodings.push(encoding);
	const pageBoundaries = getPageBoundaries(writeValues, writeType, type_length, pageSize, repetitionLevels);
	/** @type {PageColumnIndex | undefined} */
	let columnIndex = column.columnIndex && pageBoundaries.length > 1 ? {
		null_pages: [],
		min_values: [],
		max_values: [],
		boundary_order: "UNORDERED",
		null_counts: [],
		nan_counts: isFloat(element) ? [] : void 0
	} : void 0;
	/** @type {OffsetIndex | undefined} */
	const offsetIndex = column.offsetIndex && pageBoundaries.length > 1 ? { page_locations: [] } : void 0;
	const data_page_offset = BigInt(writer.offset);
	let first_row_index = 0n;
	let prevStart = 0;
	let prevMinValue;
	let prevMaxValue;
	let ascending = true;
	let descending = true;
	for (const { start, end } of pageBoundaries) {
		const pageOffset = writer.offset;
		const pageChunk = {
			values: writeValues.slice(start, end),
			definitionLevels: definitionLevels.slice(start, end),
			repetitionLevels: repetitionLevels.slice(start, end),
			maxDefinitionLevel
		};
		uncompressedSize += writeDataPageV2({
			writer,
			column,
			encoding,
			pageData: pageChunk
		});
		if (columnIndex) {
			const { min_value, max_value, null_count = 0n, nan_count } = getStatistics(statisticsValues.slice(start, end), element);
			const nullPage = null_count === BigInt(end - start);
			const minBytes = unconvertMinMax(min_value, element, false, column.statisticsTruncateLength);
			const maxBytes = unconvertMinMax(max_value, element, true, column.statisticsTruncateLength);
			if (!nullPage && (!minBytes || !maxBytes)) columnIndex = void 0;
			else {
				columnIndex.null_pages.push(nullPage);
				columnIndex.min_values.push(minBytes ?? /* @__PURE__ */ new Uint8Array());
				columnIndex.max_values.push(maxBytes ?? /* @__PURE__ */ new Uint8Array());
				columnIndex.null_counts?.push(null_count);
				if (nan_count !== void 0) columnIndex.nan_counts?.push(nan_count);
				if (prevMinValue !== void 0 && min_value !== void 0) {
					const order = compareValues(prevMinValue, min_value);
					if (order > 0) ascending = false;
					if (order < 0) descending = false;
				}
				if (prevMaxValue !== void 0 && max_value !== void 0) {
					const order = compareValues(prevMaxValue, max_value);
					if (order > 0) ascending = false;
					if (order < 0) descending = false;
				}
				prevMinValue = min_value;
				prevMaxValue = max_value;
			}
		}
		if (offsetIndex) {
			if (repetitionLevels.length) {
				for (let i = prevStart + 1; i <= start; i++) if (repetitionLevels[i] === 0) first_row_index++;
			} else first_row_index = BigInt(start);
			offsetIndex.page_locations.push({
				offset: BigInt(pageOffset),
				compressed_page_size: writer.offset - pageOffset,
				first_row_index
			});
		}
		prevStart = start;
	}
	if (columnIndex) {
		if (ascending) columnIndex.boundary_order = "ASCENDING";
		else if (descending) columnIndex.boundary_order = "DESCENDING";
	}
	/** @type {PageEncodingStats[] | undefined} */
	let encoding_stats;
	if (stats) {
		encoding_stats = [];
		if (dictionary_page_offset !== void 0) encoding_stats.push({
			page_type: "DICTIONARY_PAGE",
			encoding: "PLAIN",
			count: 1
		});
		encoding_stats.push({
			page_type: "DATA_PAGE_V2",
			encoding,
			count: pageBoundaries.length
		});
	}
	return {
		chunk: {
			meta_data: {
				type,
				encodings,
				path_in_schema: schemaPath.slice(1).map((s) => s.name),
				codec: column.codec ?? "UNCOMPRESSED",
				num_values: BigInt(values.length),
				total_compressed_size: BigInt(writer.offset - offsetStart),
				total_uncompressed_size: BigInt(uncompressedSize),
				data_page_offset,
				dictionary_page_offset,
				statistics,
				encoding_stats,
				geospatial_statistics
			},
			file_offset: BigInt(offsetStart)
		},
		columnIndex,
		offsetIndex,
		bloomFilter
	};
}
/**
* Split values into pages by estimated byte size. A page can only begin at a
* row boundary (repetition level 0), as data page v2 requires: a row never
* spans pages, so a page may run past pageSize to reach the next row.
*
* @param {DecodedArray} values
* @param {ParquetType} type
* @param {number | undefined} type_length
* @param {number} pageSize
* @param {number[]} [repetitionLevels] empty for unrepeated columns
* @returns {{start: number, end: number}[]}
*/
function getPageBoundaries(values, type, type_length, pageSize, repetitionLevels = []) {
	if (!pageSize) return [{
		start: 0,
		end: values.length
	}];
	const boundaries = [];
	let start = 0;
	let accumulatedBytes = 0;
	for (let i = 0; i < values.length; i++) {
		const valueSize = estimateValueSize(values[i], type, type_length);
		accumulatedBytes += valueSize;
		const rowStart = !repetitionLevels.length || repetitionLevels[i] === 0;
		if (accumulatedBytes >= pageSize && i > start && rowStart) {
			boundaries.push({
				start,
				end: i
			});
			start = i;
			accumulatedBytes = valueSize;
		}
	}
	if (start < values.length) boundaries.push({
		start,
		end: values.length
	});
	return boundaries;
}
/**
* @param {DecodedArray} values
* @param {SchemaElement} element
* @returns {ChunkStatistics}
*/
function getStatistics(values, element) {
	let min_value = void 0;
	let max_value = void 0;
	let null_count = 0n;
	let nan_count = isFloat(element) ? 0n : void 0;
	for (const value of values) {
		if (value === null || value === void 0) {
			null_count++;
			continue;
		}
		const statisticValue = physicalStatistic(value, element);
		if (typeof statisticValue === "object" && !(statisticValue instanceof Uint8Array)) continue;
		if (typeof statisticValue === "number" && Number.isNaN(statisticValue)) {
			if (nan_count !== void 0) nan_count++;
			continue;
		}
		if (min_value === void 0 || compareValues(statisticValue, min_value) < 0) min_value = statisticValue;
		if (max_value === void 0 || compareValues(statisticValue, max_value) > 0) max_value = statisticValue;
	}
	if (min_value === 0) min_value = -0;
	if (max_value === 0) max_value = 0;
	return {
		min_value,
		max_value,
		null_count,
		nan_count
	};
}
/**
* @param {SchemaElement} element
* @returns {boolean}
*/
function isFloat({ type, logical_type }) {
	return type === "FLOAT" || type === "DOUBLE" || logical_type?.type === "FLOAT16";
}
/**
* Normalize values that have more than one input representation, so that
* statistics compare them as the physical values they are written as. DECIMAL
* numbers are logical values while bigints are already unscaled, and a Date in
* a DATE or TIMESTAMP column is stored in the column's unit.
*
* @param {any} value
* @param {SchemaElement} element
* @returns {any}
*/
function physicalStatistic(value, element) {
	if (element.converted_type === "DECIMAL" && typeof value === "number") return BigInt(Math.round(value * 10 ** (element.scale || 0)));
	if (value instanceof Date && (element.type === "INT32" || element.type === "INT64")) return unconvert(element, [value])[0];
	return value;
}
/**
* Compare primitive statistic values or Parquet byte arrays. Byte arrays use
* unsigned lexicographic order, as required for BYTE_ARRAY min/max bounds.
*
* @param {any} left
* @param {any} right
* @returns {number}
*/
function compareValues(left, right) {
	if (left instanceof Uint8Array && right instanceof Uint8Array) {
		const length = Math.min(left.length, right.length);
		for (let i = 0; i < length; i += 1) if (left[i] !== right[i]) return left[i] - right[i];
		return left.length - right.length;
	}
	if (typeof left === "string" && typeof right === "string") return compareStrings(left, right);
	if (left < right) return -1;
	if (left > right) return 1;
	return 0;
}
/**
* Compare strings in UTF-8 byte order, which is code point order. JavaScript
* `<` compares UTF-16 code units, which misorders supplementary characters
* (surrogate pairs) against U+E000..U+FFFF. Lone surrogates compare as U+FFFD,
* matching how TextEncoder writes them.
*
* @param {string} left
* @param {string} right
* @returns {number}
*/
function compareStrings(left, right) {
	if (left === right) return 0;
	const length = Math.min(left.length, right.length);
	let i = 0;
	while (i < length && left.charCodeAt(i) === right.charCodeAt(i)) i++;
	if (i > 0) {
		const prev = left.charCodeAt(i - 1);
		if (prev >= 55296 && prev <= 56319) i--;
	}
	while (i < left.length && i < right.length) {
		const a = codePointAt(left, i);
		const b = codePointAt(right, i);
		if (a !== b) return a - b;
		i += a > 65535 ? 2 : 1;
	}
	return left.length - right.length;
}
/**
* @param {string} str
* @param {number} i
* @returns {number}
*/
function codePointAt(str, i) {
	const code = str.codePointAt(i) ?? 65533;
	return code >= 55296 && code <= 57343 ? 65533 : code;
}
// node_modules/hyparquet-writer/src/dremel.js
/**
* @import {DecodedArray, SchemaElement, SchemaTree} from 'hyparquet'
* @import {PageData} from '../src/types.js'
*/
/**
* Encode column values into repetition and definition levels following the
* Dremel algorithm. Returns page data for one subcolumn (leaf node in the schema).
*
* @param {SchemaTree[]} treePath schema tree nodes from root to leaf
* @param {DecodedArray} rows top-level column data
* @returns {PageData}
*/
function encodeNestedValues(treePath, rows) {
	const schemaPath = treePath.map((n) => n.element);
	if (treePath.length < 2) throw new Error("parquet schema path must include column");
	/** @type {number[]} */
	const definitionLevels = [];
	/** @type {number[]} */
	const repetitionLevels = [];
	const maxDefinitionLevel = getMaxDefinitionLevel(treePath);
	if (treePath.length === 2 && maxDefinitionLevel === 0) return {
		values: rows,
		definitionLevels,
		repetitionLevels,
		maxDefinitionLevel
	};
	if (treePath.length === 2 && maxDefinitionLevel === 1) {
		const definitionLevels = new Array(rows.length);
		for (let i = 0; i < rows.length; i++) definitionLevels[i] = rows[i] === null || rows[i] === void 0 ? 0 : 1;
		return {
			values: rows,
			definitionLevels,
			repetitionLevels,
			maxDefinitionLevel
		};
	}
	const repLevelPrior = new Array(treePath.length);
	let repeatedCount = 0;
	for (let i = 0; i < treePath.length; i++) {
		repLevelPrior[i] = repeatedCount;
		if (schemaPath[i].repetition_type === "REPEATED") repeatedCount++;
	}
	/** @type {any[]} */
	const values = [];
	for (const row of rows) visit(1, row, 0, 0, false);
	return {
		values,
		definitionLevels,
		repetitionLevels,
		maxDefinitionLevel
	};
	/**
	* Recursively walk the schema path, emitting definition/repetition pairs.
	*
	* @param {number} depth index into schemaPath
	* @param {any} value value at the current depth
	* @param {number} defLevel definition level accumulated so far
	* @param {number} repLevel repetition level for the next emitted slot
	* @param {boolean} allowNull whether the current value is allowed to be null
	*/
	function visit(depth, value, defLevel, repLevel, allowNull) {
		const element = schemaPath[depth];
		const repetition = element.repetition_type || "REQUIRED";
		if (depth === treePath.length - 1) {
			if (value === null || value === void 0) {
				if (repetition === "REQUIRED" && !allowNull) throw new Error("parquet required value is undefined");
				definitionLevels.push(defLevel);
			} else definitionLevels.push(repetition === "REQUIRED" ? defLevel : defLevel + 1);
			repetitionLevels.push(repLevel);
			values.push(value);
			return;
		}
		if (repetition === "REPEATED") {
			if (value === null || value === void 0) {
				if (!allowNull) throw new Error("parquet required value is undefined");
				visit(depth + 1, void 0, defLevel, repLevel, true);
				return;
			}
			if (!Array.isArray(value)) throw new Error(`parquet repeated field ${element.name} must be an array`);
			if (!value.length) {
				visit(depth + 1, void 0, defLevel, repLevel, true);
				return;
			}
			const isMapEntry = isMapLike(treePath[depth - 1]);
			const childElement = schemaPath[depth + 1];
			for (let i = 0; i < value.length; i++) {
				let childValue = value[i];
				if (isMapEntry && childValue && typeof childValue === "object" && childElement) childValue = childValue[childElement.name];
				const childRep = i === 0 ? repLevel : repLevelPrior[depth] + 1;
				visit(depth + 1, childValue, defLevel + 1, childRep, false);
			}
			return;
		}
		if (repetition === "OPTIONAL") {
			if (value === null || value === void 0) visit(depth + 1, void 0, defLevel, repLevel, true);
			else {
				const childValue = getChildValue(depth, value);
				const childIsNull = childValue === null || childValue === void 0;
				const isLogicalContainer = isListLike(treePath[depth]) || isMapLike(treePath[depth]);
				const nextDef = element.num_children && !element.type && !isLogicalContainer || !childIsNull ? defLevel + 1 : defLevel;
				visit(depth + 1, childValue, nextDef, repLevel, childIsNull);
			}
			return;
		}
		if (value === null || value === void 0) {
			if (!allowNull) throw new Error("parquet required value is undefined");
			visit(depth + 1, void 0, defLevel, repLevel, true);
		} else visit(depth + 1, getChildValue(depth, value), defLevel, repLevel, false);
	}
	/**
	* Select the child value for the next schema element in the path.
	* Normalizes maps to {key, value} entries.
	*
	* @param {number} depth current schema depth
	* @param {any} currentValue current value at this depth
	* @returns {any}
	*/
	function getChildValue(depth, currentValue) {
		if (currentValue === null || currentValue === void 0) return void 0;
		const child = schemaPath[depth + 1];
		if (!child) return void 0;
		if (isListLike(treePath[depth])) return currentValue;
		if (isMapLike(treePath[depth])) return normalizeMap(currentValue, schemaPath[depth]);
		if (typeof currentValue === "object" && !Array.isArray(currentValue)) return currentValue[child.name];
		throw new Error(`parquet expected struct, got ${currentValue}`);
	}
}
/**
* Normalize a map value to an array of {key, value} entries.
* Accepts Map, plain object, array of [k, v] pairs, or array of {key, value}.
*
* @param {any} value
* @param {SchemaElement} element
* @returns {{key: any, value: any}[]}
*/
function normalizeMap(value, element) {
	if (value instanceof Map) return Array.from(value.entries(), ([k, v]) => ({
		key: k,
		value: v
	}));
	if (Array.isArray(value)) return value.map((entry) => {
		if (entry && typeof entry === "object" && "key" in entry && "value" in entry) return entry;
		if (Array.isArray(entry) && entry.length === 2) return {
			key: entry[0],
			value: entry[1]
		};
		throw new Error("parquet map entry must provide key and value");
	});
	if (typeof value === "object") return Object.entries(value).map(([k, v]) => ({
		key: k,
		value: v
	}));
	throw new Error(`parquet map field ${element.name} must be Map, array, or object`);
}
// node_modules/hyparquet-writer/src/indexes.js
/**
* @import {ColumnChunk, OffsetIndex} from 'hyparquet'
* @import {PageColumnIndex, PageIndexes, Writer} from '../src/types.js'
*/
/**
* Write ColumnIndex and OffsetIndex for the given columns.
*
* @param {Writer} writer
* @param {PageIndexes[]} pageIndexes
*/
function writeIndexes(writer, pageIndexes) {
	for (const { chunk, columnIndex } of pageIndexes) writeColumnIndex(writer, chunk, columnIndex);
	for (const { chunk, offsetIndex } of pageIndexes) writeOffsetIndex(writer, chunk, offsetIndex);
}
/**
* @param {Writer} writer
* @param {ColumnChunk} columnChunk
* @param {PageColumnIndex} [columnIndex]
*/
function writeColumnIndex(writer, columnChunk, columnIndex) {
	if (!columnIndex || columnIndex.min_values.length <= 1) return;
	const columnIndexOffset = writer.offset;
	serializeTCompactProtocol(writer, {
		field_1: columnIndex.null_pages,
		field_2: columnIndex.min_values,
		field_3: columnIndex.max_values,
		field_4: BoundaryOrders.indexOf(columnIndex.boundary_order),
		field_5: columnIndex.null_counts,
		field_8: columnIndex.nan_counts
	});
	columnChunk.column_index_offset = BigInt(columnIndexOffset);
	columnChunk.column_index_length = writer.offset - columnIndexOffset;
}
/**
* @param {Writer} writer
* @param {ColumnChunk} columnChunk
* @param {OffsetIndex} [offsetIndex]
*/
function writeOffsetIndex(writer, columnChunk, offsetIndex) {
	if (!offsetIndex || offsetIndex.page_locations.length <= 1) return;
	const offsetIndexOffset = writer.offset;
	serializeTCompactProtocol(writer, { field_1: offsetIndex.page_locations.map((p) => ({
		field_1: p.offset,
		field_2: p.compressed_page_size,
		field_3: p.first_row_index
	})) });
	columnChunk.offset_index_offset = BigInt(offsetIndexOffset);
	columnChunk.offset_index_length = writer.offset - offsetIndexOffset;
}
// node_modules/hyparquet-writer/src/metadata.js
/**
* @import {BoundingBox, FileMetaData, LogicalType, SchemaElement, TimeUnit} from 'hyparquet'
* @import {PreconvertedThriftStruct, ThriftObject, Writer} from '../src/types.js'
*/
/**
* Write Parquet file metadata as thrift.
*
* @param {Writer} writer
* @param {FileMetaData} metadata
* @param {number} [statisticsTruncateLength] max bytes for a byte-array min/max
*/
function writeMetadata(writer, metadata, statisticsTruncateLength) {
	const resolveSchemaPath = schemaPathResolver(metadata.schema);
	/** @type {ThriftObject} */
	const compact = {
		field_1: metadata.version,
		field_2: metadata.schema.map((element) => ({
			field_1: element.type && ParquetTypes.indexOf(element.type),
			field_2: element.type_length,
			field_3: element.repetition_type && FieldRepetitionTypes.indexOf(element.repetition_type),
			field_4: element.name,
			field_5: element.num_children,
			field_6: element.converted_type && ConvertedTypes.indexOf(element.converted_type),
			field_7: element.scale,
			field_8: element.precision,
			field_9: element.field_id,
			field_10: logicalType(element.logical_type)
		})),
		field_3: metadata.num_rows,
		field_4: metadata.row_groups.map((rg) => ({
			field_1: rg.columns.map((c) => ({
				field_1: c.file_path,
				field_2: c.file_offset,
				field_3: c.meta_data && {
					field_1: ParquetTypes.indexOf(c.meta_data.type),
					field_2: c.meta_data.encodings.map((e) => Encodings.indexOf(e)),
					field_3: c.meta_data.path_in_schema,
					field_4: CompressionCodecs.indexOf(c.meta_data.codec),
					field_5: c.meta_data.num_values,
					field_6: c.meta_data.total_uncompressed_size,
					field_7: c.meta_data.total_compressed_size,
					field_8: c.meta_data.key_value_metadata && c.meta_data.key_value_metadata.map((kv) => ({
						field_1: kv.key,
						field_2: kv.value
					})),
					field_9: c.meta_data.data_page_offset,
					field_10: c.meta_data.index_page_offset,
					field_11: c.meta_data.dictionary_page_offset,
					field_12: c.meta_data.statistics && unconvertStatistics(c.meta_data.statistics, schemaElement(c.meta_data.path_in_schema), statisticsTruncateLength),
					field_13: c.meta_data.encoding_stats && c.meta_data.encoding_stats.map((es) => ({
						field_1: PageTypes.indexOf(es.page_type),
						field_2: Encodings.indexOf(es.encoding),
						field_3: es.count
					})),
					field_14: c.meta_data.bloom_filter_offset,
					field_15: c.meta_data.bloom_filter_length,
					field_16: c.meta_data.size_statistics && {
						field_1: c.meta_data.size_statistics.unencoded_byte_array_data_bytes,
						field_2: c.meta_data.size_statistics.repetition_level_histogram,
						field_3: c.meta_data.size_statistics.definition_level_histogram
					},
					field_17: c.meta_data.geospatial_statistics && {
						field_1: c.meta_data.geospatial_statistics.bbox && thriftBoundingBox(c.meta_data.geospatial_statistics.bbox),
						field_2: c.meta_data.geospatial_statistics.geospatial_types
					}
				},
				field_4: c.offset_index_offset,
				field_5: c.offset_index_length,
				field_6: c.column_index_offset,
				field_7: c.column_index_length,
				field_9: c.encrypted_column_metadata
			})),
			field_2: rg.total_byte_size,
			field_3: rg.num_rows,
			field_4: rg.sorting_columns && rg.sorting_columns.map((sc) => ({
				field_1: sc.column_idx,
				field_2: sc.descending,
				field_3: sc.nulls_first
			})),
			field_5: rg.file_offset,
			field_6: rg.total_compressed_size
		})),
		field_5: metadata.key_value_metadata && metadata.key_value_metadata.map((kv) => ({
			field_1: kv.key,
			field_2: kv.value
		})),
		field_6: metadata.created_by,
		field_7: metadata.schema.filter((element) => element.type).map(() => ({ field_1: {} }))
	};
	const metadataStart = writer.offset;
	serializeTCompactProtocol(writer, compact);
	const metadataLength = writer.offset - metadataStart;
	writer.appendUint32(metadataLength);
	/**
	* Resolve schema element for statistics using the stored path.
	*
	* @param {string[]} path
	* @returns {SchemaElement}
	*/
	function schemaElement(path) {
		const tree = resolveSchemaPath(path);
		return tree[tree.length - 1].element;
	}
}
/**
* Convert bounds to a struct with explicitly typed DOUBLE fields.
*
* @param {BoundingBox} bbox
* @returns {PreconvertedThriftStruct}
*/
function thriftBoundingBox(bbox) {
	return new ThriftStruct([
		[
			1,
			7,
			bbox.xmin
		],
		[
			2,
			7,
			bbox.xmax
		],
		[
			3,
			7,
			bbox.ymin
		],
		[
			4,
			7,
			bbox.ymax
		],
		[
			5,
			7,
			bbox.zmin
		],
		[
			6,
			7,
			bbox.zmax
		],
		[
			7,
			7,
			bbox.mmin
		],
		[
			8,
			7,
			bbox.mmax
		]
	]);
}
/**
* @param {LogicalType | undefined} type
* @returns {ThriftObject | undefined}
*/
function logicalType(type) {
	if (!type) return;
	if (type.type === "STRING") return { field_1: {} };
	if (type.type === "MAP") return { field_2: {} };
	if (type.type === "LIST") return { field_3: {} };
	if (type.type === "ENUM") return { field_4: {} };
	if (type.type === "DECIMAL") return { field_5: {
		field_1: type.scale,
		field_2: type.precision
	} };
	if (type.type === "DATE") return { field_6: {} };
	if (type.type === "TIME") return { field_7: {
		field_1: type.isAdjustedToUTC,
		field_2: timeUnit(type.unit)
	} };
	if (type.type === "TIMESTAMP") return { field_8: {
		field_1: type.isAdjustedToUTC,
		field_2: timeUnit(type.unit)
	} };
	if (type.type === "INTEGER") return { field_10: {
		field_1: type.bitWidth,
		field_2: type.isSigned
	} };
	if (type.type === "NULL") return { field_11: {} };
	if (type.type === "JSON") return { field_12: {} };
	if (type.type === "BSON") return { field_13: {} };
	if (type.type === "UUID") return { field_14: {} };
	if (type.type === "FLOAT16") return { field_15: {} };
	if (type.type === "VARIANT") return { field_16: {} };
	if (type.type === "GEOMETRY") return { field_17: { field_1: type.crs } };
	if (type.type === "GEOGRAPHY") return { field_18: {
		field_1: type.crs,
		field_2: type.algorithm && EdgeInterpolationAlgorithms.indexOf(type.algorithm)
	} };
}
/**
* @param {TimeUnit} unit
* @returns {ThriftObject}
*/
function timeUnit(unit) {
	if (unit === "NANOS") return { field_3: {} };
	if (unit === "MICROS") return { field_2: {} };
	return { field_1: {} };
}
// node_modules/hyparquet-writer/src/snappy.js
/**
* The MIT License (MIT)
* Copyright (c) 2016 Zhipeng Jia
* https://github.com/zhipeng-jia/snappyjs
*/
/**
* @import {Writer} from '../src/types.js'
*/
var MAX_HASH_TABLE_BITS = 14;
var MAX_OFFSET = 65535;
var globalHashTables = new Array(15);
/**
* Compress snappy data.
* Returns Snappy-compressed bytes as Uint8Array.
*
* @param {Uint8Array} input - uncompressed data
* @returns {Uint8Array}
*/
function snappyCompress(input) {
	const writer = new ByteWriter();
	writer.appendVarInt(input.length);
	compressInput(writer, input);
	return writer.getBytes();
}
/**
* Hash function used in the reference implementation.
*
* @param {number} key
* @param {number} hashFuncShift
* @returns {number}
*/
function hashFunc(key, hashFuncShift) {
	return Math.imul(key, 506832829) >>> hashFuncShift;
}
/**
* Load a 32-bit little-endian integer from a byte array.
*
* @param {Uint8Array} array
* @param {number} pos
* @returns {number}
*/
function load32(array, pos) {
	return array[pos] + (array[pos + 1] << 8) + (array[pos + 2] << 16) + (array[pos + 3] << 24);
}
/**
* Compare two 32-bit sequences for equality.
*
* @param {Uint8Array} array
* @param {number} pos1
* @param {number} pos2
* @returns {boolean}
*/
function equals32(array, pos1, pos2) {
	return array[pos1] === array[pos2] && array[pos1 + 1] === array[pos2 + 1] && array[pos1 + 2] === array[pos2 + 2] && array[pos1 + 3] === array[pos2 + 3];
}
/**
* Emit a literal chunk of data.
* @param {Writer} writer
* @param {Uint8Array} input
* @param {number} ip
* @param {number} len
*/
function emitLiteral(writer, input, ip, len) {
	if (len <= 60) writer.appendUint8(len - 1 << 2);
	else {
		const value = len - 1;
		const bytes = value < 256 ? 1 : value < 65536 ? 2 : value < 16777216 ? 3 : 4;
		writer.appendUint8(59 + bytes << 2);
		for (let i = 0; i < bytes; i++) writer.appendUint8(value >>> i * 8);
	}
	writer.appendBytes(input.subarray(ip, ip + len));
}
/**
* Emit a copy of previous data.
* @param {Writer} writer
* @param {number} offset
* @param {number} len
*/
function emitCopyLessThan64(writer, offset, len) {
	if (len < 12 && offset < 2048) {
		writer.appendUint8(1 + (len - 4 << 2) + (offset >>> 8 << 5));
		writer.appendUint8(offset & 255);
	} else {
		writer.appendUint8(2 + (len - 1 << 2));
		writer.appendUint8(offset & 255);
		writer.appendUint8(offset >>> 8);
	}
}
/**
* Emit a copy of previous data.
* @param {Writer} writer
* @param {number} offset
* @param {number} len
*/
function emitCopy(writer, offset, len) {
	while (len >= 68) {
		emitCopyLessThan64(writer, offset, 64);
		len -= 64;
	}
	if (len > 64) {
		emitCopyLessThan64(writer, offset, 60);
		len -= 60;
	}
	emitCopyLessThan64(writer, offset, len);
}
/**
* Compress input data.
* @param {Writer} writer
* @param {Uint8Array} input
*/
function compressInput(writer, input) {
	const inputSize = input.length;
	let hashTableBits = 1;
	while (1 << hashTableBits <= inputSize && hashTableBits <= MAX_HASH_TABLE_BITS) hashTableBits++;
	hashTableBits--;
	const hashFuncShift = 32 - hashTableBits;
	globalHashTables[hashTableBits] ??= new Uint32Array(1 << hashTableBits);
	const hashTable = globalHashTables[hashTableBits];
	hashTable.fill(0);
	const ipEnd = inputSize;
	let ipLimit;
	let ip = 0;
	let nextEmit = 0;
	let hash, nextHash;
	let nextIp, candidate, skip;
	let bytesBetweenHashLookups;
	let base, matched, offset;
	let prevHash, curHash;
	let flag = true;
	const INPUT_MARGIN = 15;
	if (inputSize >= INPUT_MARGIN) {
		ipLimit = ipEnd - INPUT_MARGIN;
		ip++;
		nextHash = hashFunc(load32(input, ip), hashFuncShift);
		while (flag) {
			skip = 32;
			nextIp = ip;
			do {
				ip = nextIp;
				hash = nextHash;
				bytesBetweenHashLookups = skip >>> 5;
				skip++;
				nextIp = ip + bytesBetweenHashLookups;
				if (ip > ipLimit) {
					flag = false;
					break;
				}
				nextHash = hashFunc(load32(input, nextIp), hashFuncShift);
				candidate = hashTable[hash];
				hashTable[hash] = ip;
			} while (ip - candidate > MAX_OFFSET || !equals32(input, ip, candidate));
			if (!flag) break;
			emitLiteral(writer, input, nextEmit, ip - nextEmit);
			do {
				base = ip;
				matched = 4;
				while (ip + matched < ipEnd && input[ip + matched] === input[candidate + matched]) matched++;
				ip += matched;
				offset = base - candidate;
				emitCopy(writer, offset, matched);
				nextEmit = ip;
				if (ip >= ipLimit) {
					flag = false;
					break;
				}
				prevHash = hashFunc(load32(input, ip - 1), hashFuncShift);
				hashTable[prevHash] = ip - 1;
				curHash = hashFunc(load32(input, ip), hashFuncShift);
				candidate = hashTable[curHash];
				hashTable[curHash] = ip;
			} while (ip - candidate <= MAX_OFFSET && equals32(input, ip, candidate));
			if (!flag) break;
			ip++;
			nextHash = hashFunc(load32(input, ip), hashFuncShift);
		}
	}
	if (nextEmit < ipEnd) emitLiteral(writer, input, nextEmit, ipEnd - nextEmit);
}
// node_modules/hyparquet-writer/src/parquet-writer.js
/**
* @import {ColumnChunk, CompressionCodec, FileMetaData, KeyValue, RowGroup, SchemaElement, SchemaTree} from 'hyparquet'
* @import {ColumnEncoder, ColumnSource, Compressors, PageIndexes, Writer} from '../src/types.js'
*/
/**
* ParquetWriter class allows incremental writing of parquet files.
*/
var ParquetWriter = class {
	/**
	* @param {object} options
	* @param {Writer} options.writer
	* @param {SchemaElement[]} options.schema
	* @param {CompressionCodec} [options.codec]
	* @param {Compressors} [options.compressors]
	* @param {boolean} [options.statistics]
	* @param {number} [options.statisticsTruncateLength]
	* @param {KeyValue[]} [options.kvMetadata]
	* @param {string} [options.createdBy]
	*/
	constructor({ writer, schema, codec = "SNAPPY", compressors, statistics = true, statisticsTruncateLength, kvMetadata, createdBy = "hyparquet" }) {
		if (statisticsTruncateLength !== void 0 && statisticsTruncateLength !== Infinity && !(Number.isInteger(statisticsTruncateLength) && statisticsTruncateLength > 0)) throw new Error("statisticsTruncateLength must be a positive integer or Infinity");
		this.writer = writer;
		/** @type {SchemaElement[]} */
		this.schema = schema;
		/** @type {CompressionCodec} */
		this.codec = codec;
		this.compressors = {
			SNAPPY: snappyCompress,
			...compressors
		};
		this.statistics = statistics;
		this.statisticsTruncateLength = statisticsTruncateLength;
		/** @type {KeyValue[] | undefined} */
		this.kvMetadata = kvMetadata;
		this.createdBy = createdBy;
		/** @type {RowGroup[]} */
		this.row_groups = [];
		this.num_rows = 0n;
		/** @type {PageIndexes[]} */
		this.pendingIndexes = [];
		this.writer.appendUint32(827474256);
	}
	/**
	* Write data to the file.
	* Will split data into row groups of the specified size.
	* Calls writer.flush() (if defined) after each row group; if it returns a
	* Promise, subsequent row groups await it before encoding more data.
	*
	* @param {object} options
	* @param {ColumnSource[]} options.columnData
	* @param {number | number[]} [options.rowGroupSize]
	* @param {number} [options.pageSize]
	* @param {number} [options.dictionarySize]
	* @returns {void | Promise<void>}
	*/
	write({ columnData, rowGroupSize = [1e3, 1e5], pageSize = 1048576, dictionarySize }) {
		for (const { codec = this.codec } of columnData) if (codec !== "UNCOMPRESSED" && !this.compressors[codec]) throw new Error(`parquet no compressor for codec ${codec}`);
		const columnDataRows = columnData[0]?.data?.length || 0;
		const resolveSchemaPath = schemaPathResolver(this.schema);
		/** @type {Promise<void> | undefined} */
		let pending;
		for (const { groupStartIndex, groupSize } of groupIterator({
			columnDataRows,
			rowGroupSize
		})) {
			const writeGroup = () => {
				const groupStartOffset = this.writer.offset;
				/** @type {ColumnChunk[]} */
				const columns = [];
				for (let j = 0; j < columnData.length; j++) {
					const { name, data, encoding, codec = this.codec, columnIndex = false, offsetIndex = true, shredding, bloomFilter, statistics = this.statistics } = columnData[j];
					if (columnIndex && !offsetIndex) throw new Error("parquet ColumnIndex cannot be present without OffsetIndex");
					if (data.length !== columnDataRows) throw new Error("parquet columns must have the same length");
					const groupData = data.slice(groupStartIndex, groupStartIndex + groupSize);
					const columnPath = resolveSchemaPath([name]);
					const leafPaths = getLeafSchemaPaths(columnPath);
					const columnElement = columnPath.at(-1)?.element;
					const shreddingConfig = shredding && shredding !== true ? shredding : void 0;
					const isVariant = columnElement?.logical_type?.type === "VARIANT";
					const isRequired = columnElement?.repetition_type === "REQUIRED";
					const rows = isVariant ? encodeVariantColumn(Array.from(groupData), shreddingConfig, {
						name,
						required: isRequired
					}) : groupData;
					for (const leafPath of leafPaths) {
						const schemaPath = leafPath.map((node) => node.element);
						/** @type {ColumnEncoder} */
						const column = {
							columnName: schemaPath.slice(1).map((s) => s.name).join("."),
							element: schemaPath[schemaPath.length - 1],
							schemaPath,
							codec,
							compressors: this.compressors,
							stats: statistics,
							statisticsTruncateLength: this.statisticsTruncateLength,
							pageSize,
							dictionarySize,
							columnIndex,
							offsetIndex,
							encoding,
							bloomFilter
						};
						const pageData = encodeNestedValues(leafPath, rows);
						const result = writeColumn({
							writer: this.writer,
							column,
							pageData
						});
						columns.push(result.chunk);
						this.pendingIndexes.push(result);
					}
				}
				let total_byte_size = 0n;
				for (const { meta_data } of columns) total_byte_size += meta_data?.total_uncompressed_size ?? 0n;
				this.num_rows += BigInt(groupSize);
				this.row_groups.push({
					columns,
					total_byte_size,
					num_rows: BigInt(groupSize),
					total_compressed_size: BigInt(this.writer.offset - groupStartOffset)
				});
				return this.writer.flush?.();
			};
			if (pending) pending = pending.then(writeGroup);
			else {
				const r = writeGroup();
				if (r) pending = Promise.resolve(r);
			}
		}
		return pending;
	}
	/**
	* Finish writing the file.
	*
	* @returns {void | Promise<void>}
	*/
	finish() {
		writeIndexes(this.writer, this.pendingIndexes);
		writeBlooms(this.writer, this.pendingIndexes);
		/** @type {FileMetaData} */
		const metadata = {
			version: 2,
			created_by: this.createdBy,
			schema: this.schema,
			num_rows: this.num_rows,
			row_groups: this.row_groups,
			metadata_length: 0,
			key_value_metadata: this.kvMetadata
		};
		delete metadata.metadata_length;
		writeMetadata(this.writer, metadata, this.statisticsTruncateLength);
		this.writer.appendUint32(827474256);
		return this.writer.finish();
	}
};
/**
* Target row count for the i-th row group. When rowGroupSize is an array, the
* last entry repeats once the array is exhausted.
*
* @param {number | number[]} rowGroupSize - Size of each row group or an array of sizes
* @param {number} i - zero-based group index
* @returns {number}
*/
function groupSize(rowGroupSize, i) {
	return Array.isArray(rowGroupSize) ? rowGroupSize[Math.min(i, rowGroupSize.length - 1)] : rowGroupSize;
}
/**
* Create an iterator for row groups based on the specified row group size.
* If rowGroupSize is an array, it will return groups based on the sizes in the array.
* When the array runs out, it will continue with the last size.
*
* @param {object} options
* @param {number} options.columnDataRows - Total number of rows in the column data
* @param {number | number[]} options.rowGroupSize - Size of each row group or an array of sizes
* @returns {Array<{groupStartIndex: number, groupSize: number}>}
*/
function groupIterator({ columnDataRows, rowGroupSize }) {
	if (Array.isArray(rowGroupSize) && !rowGroupSize.length) throw new Error("rowGroupSize array cannot be empty");
	const groups = [];
	let groupIndex = 0;
	let groupStartIndex = 0;
	while (groupStartIndex < columnDataRows) {
		const size = groupSize(rowGroupSize, groupIndex);
		groups.push({
			groupStartIndex,
			groupSize: Math.min(size, columnDataRows - groupStartIndex)
		});
		groupStartIndex += size;
		groupIndex++;
	}
	return groups;
}
/**
* Expand a schema path to all primitive leaf nodes under the column.
*
* @param {SchemaTree[]} schemaPath
* @returns {SchemaTree[][]}
*/
function getLeafSchemaPaths(schemaPath) {
	/** @type {SchemaTree[][]} */
	const leaves = [];
	dfs(schemaPath);
	return leaves;
	/**
	* @param {SchemaTree[]} path
	*/
	function dfs(path) {
		const node = path[path.length - 1];
		if (!node.children.length) {
			leaves.push(path);
			return;
		}
		for (const child of node.children) dfs([...path, child]);
	}
}
// core/write/parquet/kernel.ts
/** Larger memory is not kept for what is written next. */
var MAX_KEPT = 8388608;
var made;
/**
* Kernels with memory from FREE_FROM on, which belongs to the caller until the next call.
* @param size bytes
* @returns undefined where there are none
*/
function parquetKernel(size) {
	if (made !== void 0 && made.memory.byteLength >= 65536 + size) return made;
	const larger = kernels(size);
	if (size <= MAX_KEPT) made = larger;
	return larger;
}
// core/write/parquet/hybrid.ts
/** Values that are packed together. */
var GROUP = 8;
/** Runs from this number of equal values on are stored once with their count. */
var RUN = 16;
/** Fewer values are packed as fast without a kernel. */
var MIN_VALUES = 1024;
/**
* Small whole numbers, equal ones that follow each other as one, others in as few bits as the largest needs: 'RLE /
* bit-packing hybrid' of Apache Parquet (Encodings.md), without a length before it.
* @param width bits of a value; a row group needs 17 at most
* @param kernelFrom values from which a kernel packs them, where there is one
*/
function addHybrid(out, values, width, kernelFrom = MIN_VALUES) {
	const packed = values.length < kernelFrom ? void 0 : byKernel$2(values, width);
	if (packed !== void 0) out.put(packed);
	else addByValue(out, values, width);
}
function byKernel$2(values, width) {
	const places = new Places(FREE_FROM);
	const from = places.take(values.byteLength);
	const out = places.take(values.length * 4 + 64);
	const made = parquetKernel(places.take(0) - FREE_FROM);
	if (made === void 0) return void 0;
	const isBytes = values instanceof Uint8Array;
	if (isBytes) new Uint8Array(made.memory, from, values.length).set(values);
	else new Int32Array(made.memory, from, values.length).set(values);
	const end = made.kernels.hybrid(from, values.length, isBytes ? 0 : 2, width, out);
	return new Uint8Array(made.memory, out, end - out);
}
function addByValue(out, values, width) {
	const n = values.length;
	const valueBytes = Math.ceil(width / 8);
	out.room(10 + valueBytes + Math.ceil(n / GROUP) * width);
	let packedFrom = 0;
	let at = 0;
	while (at < n) {
		const value = values[at];
		let end = at + 1;
		while (end < n && values[end] === value) end++;
		if (end - at < RUN) {
			at = packedFrom + Math.ceil((end - packedFrom) / GROUP) * GROUP;
			continue;
		}
		addPacked(out, values, packedFrom, at, width);
		out.varint(end - at << 1);
		out.room(valueBytes);
		for (let k = 0; k < valueBytes; k++) out.bytes[out.length++] = value >>> 8 * k;
		packedFrom = end;
		at = end;
	}
	addPacked(out, values, packedFrom, n, width);
}
/** Values in groups of eight, the last filled up with zeros. */
function addPacked(out, values, from, to, width) {
	if (from === to) return;
	const groups = Math.ceil((to - from) / GROUP);
	out.varint(groups << 1 | 1);
	addBits(out, values, from, to, width);
}
/** Values in a given number of bits each, the lowest first, to a whole number of bytes for eight of them. */
function addBits(out, values, from, to, width) {
	const size = Math.ceil((to - from) / GROUP) * width;
	out.room(size);
	const { bytes } = out;
	const end = out.length + size;
	let at = out.length;
	let held = 0;
	let bits = 0;
	for (let k = from; k < to; k++) {
		const value = values[k];
		held |= value << bits;
		bits += width;
		if (bits < 32) continue;
		bytes[at] = held;
		bytes[at + 1] = held >>> 8;
		bytes[at + 2] = held >>> 16;
		bytes[at + 3] = held >>> 24;
		at += 4;
		bits -= 32;
		held = bits === 0 ? 0 : value >>> width - bits;
	}
	for (; bits > 0; bits -= 8) {
		bytes[at++] = held;
		held >>>= 8;
	}
	bytes.fill(0, at, end);
	out.length = end;
}
/** Truth values, a bit each: 'PLAIN' of Parquet's BOOLEAN. */
function addBooleans(out, values) {
	const { length } = out;
	addBits(out, values, 0, values.length, 1);
	out.length = length + Math.ceil(values.length / GROUP);
}
/** Bits that a number from 0 to this takes. */
function bitsOf(most) {
	return 32 - Math.clz32(most);
}
// core/write/parquet/pack-snappy.ts
var TABLE_BYTES = 65536;
/** Fewer bytes are packed as fast without a kernel. */
var MIN_BYTES = 1024;
/**
* Bytes packed by Snappy: the same by the kernel and without.
* @param kernelFrom bytes from which the kernel packs them, where there is one
*/
function packSnappy(bytes, kernelFrom = MIN_BYTES) {
	const { length } = bytes;
	if (length < kernelFrom) return snappyCompress(bytes);
	const from = FREE_FROM + TABLE_BYTES;
	const out = from + length + 8;
	const made = parquetKernel(out + length + Math.ceil(length / 6) + 32 - FREE_FROM);
	if (made === void 0) return snappyCompress(bytes);
	new Uint8Array(made.memory, from, length).set(bytes);
	const packed = made.kernels.snappy(from, length, out, FREE_FROM);
	return new Uint8Array(made.memory.slice(out, out + packed));
}
// core/write/parquet/page-bytes.ts
var START = 4096;
var UTF8$2 = new TextEncoder();
/** Bytes of a page as they are made, in memory that grows. */
var PageBytes = class {
	bytes = new Uint8Array(START);
	length = 0;
	all() {
		return this.bytes.subarray(0, this.length);
	}
	/** Room for more bytes. */
	room(count) {
		const wanted = this.length + count;
		if (wanted <= this.bytes.length) return;
		const bytes = new Uint8Array(Math.max(wanted, this.bytes.length * 2));
		bytes.set(this.all());
		this.bytes = bytes;
	}
	/** A whole number below 2^31 in groups of seven bits (ULEB128). */
	varint(value) {
		this.room(5);
		let rest = value;
		for (; rest >= 128; rest >>>= 7) this.bytes[this.length++] = rest & 127 | 128;
		this.bytes[this.length++] = rest;
	}
	int32(value) {
		this.room(4);
		const { bytes, length } = this;
		bytes[length] = value;
		bytes[length + 1] = value >>> 8;
		bytes[length + 2] = value >>> 16;
		bytes[length + 3] = value >>> 24;
		this.length = length + 4;
	}
	put(from) {
		this.room(from.length);
		this.bytes.set(from, this.length);
		this.length += from.length;
	}
	/** The bytes from one to before another, without an object for them: they are mostly few. */
	putRun(given, from, to) {
		this.room(to - from);
		const { bytes } = this;
		let at = this.length;
		for (let k = from; k < to; k++) bytes[at++] = given[k];
		this.length = at;
	}
	/** A text in UTF-8, with its length in four bytes before it. */
	text(text) {
		const n = text.length;
		this.room(4 + n * 3);
		const { bytes } = this;
		const from = this.length + 4;
		let k = 0;
		for (; k < n; k++) {
			const code = text.charCodeAt(k);
			if (code >= 128) break;
			bytes[from + k] = code;
		}
		const size = k === n ? n : k + UTF8$2.encodeInto(text.slice(k), bytes.subarray(from + k)).written;
		this.int32(size);
		this.length = from + size;
	}
};
// core/write/parquet/column-chunk.ts
/** Rows of a page at most. */
var PAGE_ROWS = 32768;
/** Writes a column, and gives what the foot of the file says of it. */
function writeChunk(to, path, type, { rows, filled, statistics, cells }) {
	const start = to.offset;
	let unpacked = 0;
	const isCoded = "codes" in cells;
	const encoding = isCoded ? "RLE_DICTIONARY" : "PLAIN";
	let dictionaryAt;
	if (isCoded) {
		dictionaryAt = BigInt(start);
		const packed = packSnappy(cells.dictionary);
		writePageHeader(to, {
			type: "DICTIONARY_PAGE",
			uncompressed_page_size: cells.dictionary.length,
			compressed_page_size: packed.length,
			dictionary_page_header: {
				num_values: cells.entries,
				encoding: "PLAIN"
			}
		});
		unpacked += to.offset - start + cells.dictionary.length;
		to.appendBytes(packed);
	}
	const pagesAt = to.offset;
	let pages = 0;
	let blanks = 0;
	let packs = true;
	/** Filled cells of the pages before. */
	let cell = 0;
	for (let from = 0; from < rows; pages++) {
		const body = new PageBytes();
		const most = Math.min(rows, from + PAGE_ROWS);
		const end = isCoded ? most : cells.add(body, from, most);
		const own = sum(filled, from, end);
		if (isCoded) addCodes(body, cells, cell, cell + own);
		cell += own;
		const levels = new PageBytes();
		addHybrid(levels, filled.subarray(from, end), 1);
		const plain = body.all();
		const packed = packs ? packSnappy(plain) : plain;
		const isPacked = packed.length < plain.length;
		packs = isPacked;
		const kept = isPacked ? packed : plain;
		const headAt = to.offset;
		writePageHeader(to, {
			type: "DATA_PAGE_V2",
			uncompressed_page_size: levels.length + body.length,
			compressed_page_size: levels.length + kept.length,
			data_page_header_v2: {
				num_values: end - from,
				num_nulls: end - from - own,
				num_rows: end - from,
				encoding,
				definition_levels_byte_length: levels.length,
				repetition_levels_byte_length: 0,
				is_compressed: isPacked
			}
		});
		unpacked += to.offset - headAt + levels.length + body.length;
		to.appendBytes(levels.all());
		to.appendBytes(kept);
		blanks += end - from - own;
		from = end;
	}
	return {
		type,
		encodings: isCoded ? [
			"PLAIN",
			"RLE_DICTIONARY",
			"RLE"
		] : ["PLAIN", "RLE"],
		path_in_schema: path,
		codec: "SNAPPY",
		num_values: BigInt(rows),
		total_uncompressed_size: BigInt(unpacked),
		total_compressed_size: BigInt(to.offset - start),
		data_page_offset: BigInt(pagesAt),
		...dictionaryAt === void 0 ? {} : { dictionary_page_offset: dictionaryAt },
		statistics: {
			...statistics,
			null_count: BigInt(blanks)
		},
		encoding_stats: [...isCoded ? [{
			page_type: "DICTIONARY_PAGE",
			encoding: "PLAIN",
			count: 1
		}] : [], {
			page_type: "DATA_PAGE_V2",
			encoding,
			count: pages
		}]
	};
}
/** Codes of filled cells, all of one page. */
function addCodes(out, { codes, entries }, from, to) {
	const width = bitsOf(Math.max(0, entries - 1));
	out.put(Uint8Array.of(width));
	addHybrid(out, codes.subarray(from, to), width);
}
function sum(flags, from, to) {
	let all = 0;
	for (let r = from; r < to; r++) all += flags[r];
	return all;
}
// core/write/parquet/number-codes.ts
/** Entries of a dictionary that is still worth its place, as a part of the cells. */
var WORTH = 1 / 3;
var LOW = /* @__PURE__ */ new Int32Array(2);
var AS_NUMBER = new Float64Array(LOW.buffer);
/** Fewer rows are looked at as fast without a kernel. */
var MIN_ROWS = 1024;
/**
* @param values NaN is blank; 0 and -0 are two numbers
* @param kernelFrom rows from which a kernel looks at them, where there is one
*/
function numberCodes(values, kernelFrom = MIN_ROWS) {
	return (values.length < kernelFrom ? void 0 : byKernel$1(values)) ?? byNumber(values);
}
/** Entries at most, and how many bits number the slots in which they are searched for: never more than half are taken. */
function sizesFor(rows) {
	const most = Math.ceil(rows * WORTH);
	return {
		most,
		bits: Math.ceil(Math.log2(most * 2 + 2))
	};
}
function byKernel$1(values) {
	const rows = values.length;
	const { most, bits } = sizesFor(rows);
	const places = new Places(FREE_FROM);
	const at = {
		values: places.take(rows * 8),
		filled: places.take(rows),
		codes: places.take(rows * 4),
		entries: places.take(most * 8),
		slots: places.take(4 << bits)
	};
	const made = parquetKernel(places.take(0) - FREE_FROM);
	if (made === void 0) return void 0;
	const { kernels: kernel, memory } = made;
	new Float64Array(memory, at.values, rows).set(values);
	const count = kernel.numberCodes(at.values, rows, at.filled, at.codes, at.entries, most, at.slots, bits);
	const filled = kernel.numberCodesFilled.value;
	return {
		filled: new Uint8Array(memory.slice(at.filled, at.filled + rows)),
		least: kernel.numberCodesLeast.value,
		most: kernel.numberCodesMost.value,
		coded: count < 0 ? void 0 : {
			codes: new Int32Array(memory.slice(at.codes, at.codes + filled * 4)),
			entries: new Float64Array(memory.slice(at.entries, at.entries + count * 8))
		}
	};
}
function byNumber(values) {
	const filled = new Uint8Array(values.length);
	let least = Number.POSITIVE_INFINITY;
	let most = Number.NEGATIVE_INFINITY;
	for (let r = 0; r < values.length; r++) {
		const value = values[r];
		if (Number.isNaN(value)) continue;
		filled[r] = 1;
		if (value < least) least = value;
		if (value > most) most = value;
	}
	return {
		filled,
		least,
		most,
		coded: codesOf(values)
	};
}
function codesOf(values) {
	const n = values.length;
	const { most, bits } = sizesFor(n);
	const codes = new Int32Array(n);
	const entries = new Float64Array(most);
	const slots = new Int32Array(2 ** bits);
	const mask = slots.length - 1;
	let count = 0;
	let cells = 0;
	for (let r = 0; r < n; r++) {
		const value = values[r];
		if (Number.isNaN(value)) continue;
		AS_NUMBER[0] = value;
		let h = Math.imul(LOW[0], 2654435761) ^ Math.imul(LOW[1], 2246822507);
		h ^= h >>> 15;
		let slot = Math.imul(h, 3266489909) & mask;
		for (;;) {
			const code = slots[slot] - 1;
			if (code < 0) {
				if (count === most) return void 0;
				entries[count] = value;
				codes[cells++] = count++;
				slots[slot] = count;
				break;
			}
			if (entries[code] === value && (value !== 0 || Object.is(entries[code], value))) {
				codes[cells++] = code;
				break;
			}
			slot = slot + 1 & mask;
		}
	}
	return {
		codes: codes.subarray(0, cells),
		entries: entries.subarray(0, count)
	};
}
// core/write/parquet/text-bounds.ts
/** Fewer texts are compared as fast without a kernel. */
var MIN_TEXTS = 256;
/** What the kernel may look at behind the last. */
var BEHIND$1 = 8;
/**
* Which of some texts are the least and the greatest by their bytes, the first of equal ones.
* @param bytes of the texts, one behind the other, each with its length in four bytes before it
* @param ends where each ends, a zero before them
* @param kernelFrom texts from which a kernel compares them, where there is one
*/
function textBounds(bytes, ends, kernelFrom = MIN_TEXTS) {
	return (ends.length <= kernelFrom ? void 0 : byKernel(bytes, ends)) ?? byBytes(bytes, ends);
}
function byKernel(bytes, ends) {
	const places = new Places(FREE_FROM);
	const at = {
		ends: places.take(ends.length * 8),
		bytes: places.take(bytes.length + BEHIND$1)
	};
	const made = parquetKernel(places.take(0) - FREE_FROM);
	if (made === void 0) return void 0;
	new Float64Array(made.memory, at.ends, ends.length).set(ends);
	new Uint8Array(made.memory, at.bytes, bytes.length).set(bytes);
	return {
		least: made.kernels.textBounds(at.bytes, at.ends, ends.length - 1),
		most: made.kernels.textBoundsMost.value
	};
}
function byBytes(bytes, ends) {
	let least = 0;
	let most = 0;
	const compared = (one, other) => {
		const [oneTo, otherTo] = [ends[one + 1], ends[other + 1]];
		let [a, b] = [ends[one] + 4, ends[other] + 4];
		for (; a < oneTo && b < otherTo; a++, b++) if (bytes[a] !== bytes[b]) return bytes[a] - bytes[b];
		return oneTo - a - (otherTo - b);
	};
	for (let k = 1; k < ends.length - 1; k++) if (compared(k, least) < 0) least = k;
	else if (compared(k, most) > 0) most = k;
	return {
		least,
		most
	};
}
// core/write/parquet/chunk-cells.ts
/** What a column's cells are in a row group, as numbers or as text. */
var HIGH = 2 ** 32;
/** Numbers in the bytes that their type has, one behind the other ('PLAIN'); Parquet and typed arrays are little-endian. */
function plainBytes(values, kind) {
	const n = values.length;
	if (kind === "number") return bytesOf$1(values);
	if (kind === "date" || kind === "time") return bytesOf$1(intVector(n, (k) => values[k]));
	const halves = new Int32Array(n * 2);
	for (let k = 0; k < n; k++) {
		const high = Math.floor(values[k] / HIGH);
		halves[2 * k] = values[k] - high * HIGH;
		halves[2 * k + 1] = high;
	}
	return bytesOf$1(halves);
}
function bytesOf$1({ buffer, byteOffset, byteLength }) {
	return new Uint8Array(buffer, byteOffset, byteLength);
}
/** @param values of a row group; NaN is blank */
function numberCells(values, kind) {
	const { filled, least, most, coded } = numberCodes(values);
	const own = {
		rows: values.length,
		filled,
		statistics: boundsOf(least, most, kind)
	};
	if (kind === "yesno") return {
		...own,
		cells: { add: (out, from, to) => addTruth(out, values, from, to) }
	};
	if (coded !== void 0) {
		const { codes, entries } = coded;
		return {
			...own,
			cells: {
				codes,
				entries: entries.length,
				dictionary: plainBytes(entries, kind)
			}
		};
	}
	return {
		...own,
		cells: { add(out, from, to) {
			out.put(plainBytes(filledOf(values, from, to), kind));
			return to;
		} }
	};
}
function filledOf(values, from, to) {
	const out = new Float64Array(to - from);
	let count = 0;
	for (let r = from; r < to; r++) if (!Number.isNaN(values[r])) out[count++] = values[r];
	return out.subarray(0, count);
}
function boundsOf(least, most, kind) {
	if (least > most) return {};
	if (kind === "yesno") return {
		min_value: least !== 0,
		max_value: most !== 0
	};
	if (kind === "number") return {
		min_value: least === 0 ? -0 : least,
		max_value: most === 0 ? 0 : most
	};
	return {
		min_value: least,
		max_value: most
	};
}
function addTruth(out, values, from, to) {
	addBooleans(out, flags(filledOf(values, from, to), (value) => value !== 0));
	return to;
}
/** Gives the cells of a text column row group by row group. */
function textCells(column) {
	const spans = column.type === "text" ? spansOf(column) : void 0;
	let ofDictionary;
	return (from, to) => {
		let texts = spans && textsOfSpans(spans.stretch(from, to));
		if (texts === void 0) {
			ofDictionary ??= textsOfDictionary(column);
			texts = ofDictionary(from, to);
		}
		return chunkOf(texts);
	};
}
function chunkOf({ filled, codes, bytes, ends }) {
	const own = {
		rows: filled.length,
		filled,
		statistics: boundsOfTexts(bytes, ends)
	};
	const entries = ends.length - 1;
	if (entries <= codes.length / 2) return {
		...own,
		cells: {
			codes,
			entries,
			dictionary: bytes
		}
	};
	/** Pages follow each other. */
	let cell = 0;
	return {
		...own,
		cells: { add(out, from, to) {
			let r = from;
			for (; r < to && out.length < 1048576; r++) {
				if (filled[r] === 0) continue;
				const code = codes[cell++];
				out.putRun(bytes, ends[code], ends[code + 1]);
			}
			return r;
		} }
	};
}
/** Cells that are still bytes of their source, without a text for each; undefined where they are not all of ASCII. */
function textsOfSpans(spans) {
	const filled = new Uint8Array(spans.rows);
	const codes = new Int32Array(spans.rows);
	const different = new ByteDictionary();
	let cells = 0;
	spans.each((row, bytes, from, to) => {
		filled[row] = 1;
		codes[cells++] = different.code(bytes, from, to);
	});
	const { bytes, starts } = different.runs;
	if (bytes.some((byte) => byte >= 128)) return void 0;
	const out = new PageBytes();
	const ends = new Float64Array(different.size + 1);
	for (let k = 0; k < different.size; k++) {
		out.int32(starts[k + 1] - starts[k]);
		out.put(bytes.subarray(starts[k], starts[k + 1]));
		ends[k + 1] = out.length;
	}
	return {
		filled,
		codes: codes.subarray(0, cells),
		bytes: out.all(),
		ends
	};
}
function textsOfDictionary(column) {
	const { codes: all, texts } = textView(column);
	/** The place of each text in the row group's own dictionary, and 1 more. */
	const places = new Int32Array(texts.length);
	return (from, to) => {
		const rows = to - from;
		const filled = new Uint8Array(rows);
		const codes = new Int32Array(rows);
		const used = [];
		let cells = 0;
		for (let r = 0; r < rows; r++) {
			const code = all[from + r];
			if (code < 0) continue;
			filled[r] = 1;
			if (places[code] === 0) places[code] = used.push(code);
			codes[cells++] = places[code] - 1;
		}
		for (const code of used) places[code] = 0;
		const out = new PageBytes();
		const ends = new Float64Array(used.length + 1);
		used.forEach((code, k) => {
			out.text(texts[code]);
			ends[k + 1] = out.length;
		});
		return {
			filled,
			codes: codes.subarray(0, cells),
			bytes: out.all(),
			ends
		};
	};
}
/** The least and the greatest text by their bytes. @param ends where each text ends, a zero before them */
function boundsOfTexts(bytes, ends) {
	if (ends.length === 1) return {};
	const { least, most } = textBounds(bytes, ends);
	const text = (k) => bytes.slice(ends[k] + 4, ends[k + 1]);
	return {
		min_value: text(least),
		max_value: text(most)
	};
}
// core/write/parquet/write-parquet.ts
var SCHEMA = {
	text: {
		type: "BYTE_ARRAY",
		converted_type: "UTF8"
	},
	number: { type: "DOUBLE" },
	whole: { type: "INT64" },
	yesno: { type: "BOOLEAN" },
	date: {
		type: "INT32",
		converted_type: "DATE"
	},
	time: {
		type: "INT32",
		converted_type: "TIME_MILLIS"
	},
	datetime: {
		type: "INT64",
		converted_type: "TIMESTAMP_MILLIS"
	}
};
/** Rows of a row group at most. */
var GROUP_ROWS = 1 << 17;
/**
* Writes tables with the same columns into one Parquet file, each as one or more row groups. Head and foot are
* the library's; pages are made here, straight from the vectors of the columns (docs of the format: apache/parquet-format).
*/
var ParquetPieces = class {
	to;
	file;
	/** @param to takes the bytes; a writer of the library */
	constructor(to) {
		this.to = to;
	}
	add(table) {
		const kinds = table.fields.map(valueKind);
		this.file ??= new ParquetWriter({
			writer: this.to,
			schema: schemaOf(table, kinds),
			createdBy: "rimefield"
		});
		const cells = table.fields.map(({ column }, c) => cellsOf(column, kinds[c]));
		for (let from = 0; from < table.rows; from += GROUP_ROWS) {
			const to = Math.min(table.rows, from + GROUP_ROWS);
			const start = this.to.offset;
			const columns = table.fields.map(({ name }, c) => {
				return {
					file_offset: BigInt(this.to.offset),
					meta_data: writeChunk(this.to, [name], SCHEMA[kinds[c]].type, cells[c](from, to))
				};
			});
			this.file.row_groups.push({
				columns,
				total_byte_size: columns.reduce((all, { meta_data }) => all + meta_data.total_uncompressed_size, 0n),
				num_rows: BigInt(to - from),
				total_compressed_size: BigInt(this.to.offset - start)
			});
			this.file.num_rows += BigInt(to - from);
			this.to.flush?.();
		}
	}
	end() {
		this.file?.finish();
	}
};
/** A table as Apache Parquet, columns by their types. */
function writeParquet(table) {
	const to = new ByteWriter();
	const pieces = new ParquetPieces(to);
	pieces.add(table);
	pieces.end();
	return new Uint8Array(to.getBuffer());
}
function schemaOf(table, kinds) {
	return [{
		name: "root",
		num_children: kinds.length
	}, ...kinds.map((kind, c) => ({
		name: table.fields[c].name,
		repetition_type: "OPTIONAL",
		...SCHEMA[kind]
	}))];
}
function cellsOf(column, kind) {
	if (kind === "text") return textCells(column);
	const values = valuesOf(column);
	return (from, to) => numberCells(values.subarray(from, to), kind);
}
// core/write/typed-cells.ts
function typedCell(column, row) {
	if (column.type === "text") return cellText(column, row);
	const type = column.type === "received" ? kindOf(column.tags[row]) : column.type;
	const value = column.values[row];
	if (type === void 0 || Number.isNaN(value)) return cellText(column, row);
	if (type === "yesno") return value !== 0;
	return type === "number" || type === "whole" ? value : countedText(type, value);
}
/** The type of a counted cell; undefined for blanks, texts and unreadable ones. */
function kindOf(tag) {
	return tag === Tag.blank || tag === Tag.text || tag === Tag.unreadable ? void 0 : typeOfTag(tag);
}
/** Rows of a cell that could not be read, over all columns; for exports that stop at them. */
function unreadableRows(field) {
	const { column } = field;
	const rows = [];
	if (column.type === "received") column.tags.forEach((tag, r) => {
		if (tag === Tag.unreadable) rows.push(r);
	});
	else if (column.type !== "text") column.unreadable?.codes.forEach((code, r) => {
		if (code >= 0) rows.push(r);
	});
	return rows;
}
// core/write/ready-cells.ts
/** 1 for each of some signs, the signs below a code, and what is not of ASCII. */
function stopsAt(signs, below = 0) {
	const stops = (/* @__PURE__ */ new Uint8Array(256)).fill(1, 0, below).fill(1, 128);
	for (const sign of signs) stops[sign.charCodeAt(0) & 255] = 1;
	return stops;
}
/** The cells of a column as they are written; each different text is made ready once. */
function readyCells(column, forms) {
	const textOf = (text) => text === null ? forms.blank : forms.text(text);
	const told = (row) => {
		const cell = typedCell(column, row);
		if (typeof cell === "number") return forms.number(cell);
		return typeof cell === "boolean" ? forms.yesno(cell) : textOf(cell);
	};
	const memo = (texts) => {
		const made = new Array(texts.length);
		return (code) => {
			made[code] ??= forms.text(texts[code]);
			return made[code];
		};
	};
	if (column.type === "text") {
		const { codes, texts } = textView(column);
		const made = memo(texts);
		return (row) => codes[row] < 0 ? forms.blank : made(codes[row]);
	}
	if (column.type === "received") {
		const made = memo(column.dictionary);
		return (row) => column.tags[row] === Tag.text ? made(column.values[row]) : told(row);
	}
	if (column.type === "number" || column.type === "whole") return (row) => {
		const value = column.values[row];
		return Number.isNaN(value) ? textOf(cellText(column, row)) : forms.number(value);
	};
	return told;
}
/** Different texts that are made ready before rows are written, at most. */
var MAX_CODED = 2048;
/** The cells of a column for the rows of a format. */
function partCells(column, forms) {
	const spans = column.type === "text" && forms.plain !== void 0 ? spansOf(column) : void 0;
	if (spans !== void 0) {
		const write = spanWriter(spans, forms);
		const { stops, before, behind } = forms.plain;
		return {
			write,
			runs: before + behind === "" ? {
				...spans.places,
				stops,
				other: write
			} : void 0
		};
	}
	if (column.type === "text" && forms.plain !== void 0 && textCount(column) > MAX_CODED) return { write: textWriter(column, forms) };
	const ready = readyCells(column, forms);
	const { aroundNumbers, blank } = forms;
	return {
		write: (row, out) => out.add(ready(row)),
		numbers: (column.type === "number" || column.type === "whole") && countUnreadable(column) === 0 && aroundNumbers !== void 0 ? {
			...aroundNumbers,
			values: column.values,
			blank
		} : void 0,
		coded: codedCells(column, forms)
	};
}
/** Cells of few different texts, dates or times; undefined where there are many, or other cells among them. */
function codedCells(column, { blank, text }) {
	if (column.type === "text") {
		if (textCount(column) > MAX_CODED) return void 0;
		const { codes, dictionary } = column;
		const isUsed = new Uint8Array(dictionary.length);
		for (let r = 0; r < codes.length; r++) if (codes[r] >= 0) isUsed[codes[r]] = 1;
		return {
			codes,
			texts: dictionary.map((one, code) => isUsed[code] === 1 ? text(one) : ""),
			blank
		};
	}
	if (column.type !== "date" && column.type !== "time" && column.type !== "datetime") return void 0;
	if (countUnreadable(column) > 0) return void 0;
	const { type, values } = column;
	const codes = new Int32Array(values.length).fill(-1);
	const known = /* @__PURE__ */ new Map();
	const texts = [];
	for (let r = 0; r < values.length; r++) {
		const value = values[r];
		if (Number.isNaN(value)) continue;
		let code = known.get(value);
		if (code === void 0) {
			if (texts.length === MAX_CODED) return void 0;
			code = texts.push(text(countedText(type, value))) - 1;
			known.set(value, code);
		}
		codes[r] = code;
	}
	return {
		codes,
		texts,
		blank
	};
}
/** Cells that are still bytes of their source, without a text for each. */
function spanWriter(spans, { blank, text, plain }) {
	const { stops, before, behind } = plain;
	let to;
	const putPlain = (bytes, from, end) => {
		if (from === end) return false;
		for (let k = from; k < end; k++) if (stops[bytes[k]] === 1) return false;
		to.add(before);
		to.putRun(bytes, from, end);
		to.add(behind);
		return true;
	};
	return (row, out) => {
		to = out;
		const isPut = spans.at(row, putPlain);
		if (isPut === void 0) out.add(blank);
		else if (!isPut) out.add(text(spans.text(row)));
	};
}
/** Many different texts, of which none is made ready without need. */
function textWriter({ codes, dictionary }, { blank, text, plain }) {
	const { stops, before, behind } = plain;
	return (row, out) => {
		const code = codes[row];
		if (code < 0) out.add(blank);
		else if (!out.addPlain(dictionary[code], stops, before, behind)) out.add(text(dictionary[code]));
	};
}
// core/write/rows/text-bytes.ts
/** Bytes that are made before they are put with the others. */
var PIECE = 1 << 20;
/** Bytes from which they are copied as one. */
var LONG_RUN = 64;
/** Bytes from which they are their own piece. */
var LONG_PIECE = 16384;
var UTF8$1 = new TextEncoder();
/** Collects text as bytes, to be handed on piece by piece or taken as a whole: no limit of one string is met. */
var TextBytes = class {
	encode;
	send;
	pieces = [];
	bytes = /* @__PURE__ */ new Uint8Array();
	length = 0;
	text = "";
	/**
	* @param encode where it is not UTF-8 that is wanted
	* @param send is handed each piece; without it they are kept for all()
	*/
	constructor(encode, send = (piece) => this.pieces.push(piece)) {
		this.encode = encode;
		this.send = send;
	}
	/** Whether bytes are those of UTF-8. */
	get isPlain() {
		return this.encode === void 0;
	}
	add(text) {
		if (this.encode !== void 0) {
			this.text += text;
			if (this.text.length > PIECE) this.flush();
			return;
		}
		const n = text.length;
		this.make(n);
		const { bytes } = this;
		let at = this.length;
		for (let k = 0; k < n; k++) {
			const code = text.charCodeAt(k);
			if (code >= 128) {
				this.length = at;
				this.addEncoded(text.slice(k));
				return;
			}
			bytes[at++] = code;
		}
		this.length = at;
	}
	/**
	* A text between two others of ASCII, if it has signs and none that stops it.
	* @param stops for each byte; 1 for all beyond ASCII
	* @returns false where nothing is added
	*/
	addPlain(text, stops, before, behind) {
		const n = text.length;
		if (!this.isPlain || n === 0) return false;
		this.make(before.length + n + behind.length);
		const { bytes } = this;
		let at = this.length;
		for (let k = 0; k < before.length; k++) bytes[at++] = before.charCodeAt(k);
		for (let k = 0; k < n; k++) {
			const code = text.charCodeAt(k);
			if (code >= 128 || stops[code] === 1) return false;
			bytes[at++] = code;
		}
		for (let k = 0; k < behind.length; k++) bytes[at++] = behind.charCodeAt(k);
		this.length = at;
		return true;
	}
	addEncoded(text) {
		const encoded = UTF8$1.encode(text);
		this.putRun(encoded, 0, encoded.length);
	}
	/** Bytes as they are. */
	putRun(given, from, to) {
		this.make(to - from);
		const { bytes } = this;
		if (to - from >= LONG_RUN) {
			bytes.set(given.subarray(from, to), this.length);
			this.length += to - from;
			return;
		}
		let at = this.length;
		for (let k = from; k < to; k++) bytes[at++] = given[k];
		this.length = at;
	}
	/**
	* The cells of rows one behind the other, each a run of bytes as it is, without a call for each.
	*
	* @param ends where the cell of row from + k ends is put at at + k + 1
	* @param most bytes behind which no more rows are taken
	* @returns how many rows were taken
	*/
	putRuns(runs, from, rows, ends, at, most) {
		const { bytes: source, starts, lengths, stops, other } = runs;
		const begin = this.length;
		let { bytes, length } = this;
		for (let k = 0; k < rows; k++) {
			const start = starts[from + k];
			const count = lengths[from + k];
			let copied = -1;
			if (start >= 0 && count > 0 && count < LONG_RUN && start + count <= source.length) {
				if (length + count > bytes.length) {
					this.length = length;
					this.make(count);
					({bytes, length} = this);
				}
				for (copied = 0; copied < count; copied++) {
					const byte = source[start + copied];
					if (stops[byte] === 1) break;
					bytes[length + copied] = byte;
				}
			}
			if (copied === count) length += count;
			else {
				this.length = length;
				other(from + k, this);
				({bytes, length} = this);
			}
			ends[at + k + 1] = length;
			if (length - begin > most) {
				this.length = length;
				return k + 1;
			}
		}
		this.length = length;
		return rows;
	}
	/** Bytes as they are, which are nobody else's. */
	putPiece(piece) {
		if (piece.length < LONG_PIECE) this.putRun(piece, 0, piece.length);
		else {
			this.flush();
			this.send(piece);
		}
	}
	/** Room for a number of bytes. */
	make(count) {
		if (this.length + count <= this.bytes.length) return;
		this.flush();
		this.bytes = new Uint8Array(Math.max(PIECE, count));
	}
	/** All that was added. */
	all() {
		this.flush();
		return concatenate(this.pieces);
	}
	/** Hands on what was added since the last piece. */
	flush() {
		if (this.encode !== void 0) {
			this.send(this.encode(this.text));
			this.text = "";
			return;
		}
		if (this.length === 0) return;
		this.send(this.bytes.subarray(0, this.length));
		this.bytes = this.bytes.subarray(this.length);
		this.length = 0;
	}
};
/** Texts as bytes in one memory that grows, to be looked at and written over. */
var CellBytes = class extends TextBytes {
	/** How many there are. */
	get size() {
		return this.length;
	}
	/** Those that were added. */
	get added() {
		return this.bytes.subarray(0, this.length);
	}
	clear() {
		this.length = 0;
	}
	make(count) {
		const wanted = this.length + count;
		if (wanted <= this.bytes.length) return;
		const bytes = new Uint8Array(Math.max(wanted, this.bytes.length * 2));
		bytes.set(this.added);
		this.bytes = bytes;
	}
};
/** All pieces in one. */
function concatenate(pieces) {
	const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
	let at = 0;
	for (const piece of pieces) {
		out.set(piece, at);
		at += piece.length;
	}
	return out;
}
// core/write/rows/batch.ts
/** Bytes of cells, which parts share: where one has had its own, the batch ends. */
var MAX_BYTES = 196608;
/** Some rows: the cells of each part as bytes, but for those that a kernel writes itself. */
var Batch = class {
	parts;
	most;
	first;
	/** Where it begins in the table. */
	from = 0;
	rows = 0;
	bytes = new CellBytes();
	/** For each part with cells where they end: those of row k of the batch are from ends[k] to ends[k + 1]. */
	ends;
	/** 1 for each part whose cells are among the bytes. */
	isWritten;
	/** Rows that the next one may have. */
	tried;
	constructor(parts, most, first) {
		this.parts = parts;
		this.most = most;
		this.first = first;
		this.ends = parts.map(({ cells }) => new Int32Array(cells === void 0 ? 0 : most + 1));
		this.isWritten = new Uint8Array(parts.length);
		this.tried = most;
	}
	/** The number of its first row, where rows are numbered. */
	get number() {
		return this.first + this.from;
	}
	/**
	* Takes rows from some row of the table on: as many as there is room for, fewer where their cells are long.
	* @param isKnown for each part whether a kernel writes its cells itself
	*/
	take(from, end, isKnown) {
		this.from = from;
		this.rows = Math.min(this.tried, end - from);
		this.bytes.clear();
		this.isWritten.fill(0);
		const written = this.parts.flatMap(({ cells }, p) => cells === void 0 || isKnown(p) ? [] : [p]);
		for (const p of written) this.write(p, 0, MAX_BYTES / written.length);
		this.tried = Math.min(this.most, this.rows * 2);
	}
	/**
	* Writes the cells of a part, from a row of the batch on.
	* @param most bytes behind which the batch ends
	*/
	write(p, row, most = Number.POSITIVE_INFINITY) {
		const { bytes, from } = this;
		const { write, runs } = this.parts[p].cells;
		const ends = this.ends[p];
		const start = bytes.size;
		this.isWritten[p] = 1;
		ends[row] = start;
		if (runs !== void 0) {
			this.rows = row + bytes.putRuns(runs, from + row, this.rows - row, ends, row, most);
			return;
		}
		for (let k = row; k < this.rows; k++) {
			write(from + k, bytes);
			ends[k + 1] = bytes.size;
			if (bytes.size - start > most) this.rows = k + 1;
		}
	}
	/** Adds rows of the batch to what is written, and writes first what cells are not among the bytes. */
	addTo(out, row, end) {
		const { parts, number } = this;
		parts.forEach(({ cells }, p) => {
			if (cells !== void 0 && this.isWritten[p] === 0) this.write(p, row);
		});
		const bytes = this.bytes.added;
		for (let k = row; k < end; k++) for (let p = 0; p < parts.length; p++) {
			const { front, isNumbered, behind, cells } = parts[p];
			const ends = this.ends[p];
			if (cells?.isLeftOut === true && ends[k] === ends[k + 1]) continue;
			out.add(front);
			if (isNumbered === true) out.add(String(number + k));
			if (cells !== void 0) out.putRun(bytes, ends[k], ends[k + 1]);
			else if (behind !== void 0) out.add(behind);
		}
	}
};
// core/write/rows/rows-kernel.ts
/** 32-bit words of what the kernel gets to know of a part (PART in its source). */
var WORDS = 12;
var CELLS_WORD = 10;
var KIND = {
	same: 0,
	runs: 1,
	numbers: 2,
	coded: 3
};
/** Room for the cells of a batch, and for its rows. */
var CELL_BYTES = 262144;
var OUT_BYTES = 393216;
/** For texts that are given once: those of more columns are given with each batch. */
var CODED_BYTES = 131072;
/** What the kernel may look at behind a text. */
var BEHIND = 16;
/** Batches for which numbers are written as texts at most, until the kernel is asked again. */
var MAX_WAIT = 64;
var UTF8 = new TextEncoder();
/** Writes the rows of a batch; numbers that the kernel does not know are written as texts. */
var RowsKernel = class RowsKernel {
	batch;
	kernel;
	memory;
	places;
	kinds;
	/** For each part how many batches on the kernel is not asked for its numbers, and for how many after the next failure. */
	wait;
	nextWait;
	constructor(batch, kernel, memory, places, kinds) {
		this.batch = batch;
		this.kernel = kernel;
		this.memory = memory;
		this.places = places;
		this.kinds = kinds;
		this.wait = new Uint8Array(batch.parts.length);
		this.nextWait = new Uint8Array(batch.parts.length).fill(1);
	}
	/** @returns undefined where there are no kernels */
	static of(batch) {
		const { parts } = batch;
		const places = new Places(FREE_FROM);
		const take = (bytes) => places.take(bytes + BEHIND);
		const given = [];
		const give = (bytes) => {
			const at = take(bytes.length);
			given.push({
				bytes,
				at
			});
			return [at, bytes.length];
		};
		let codedBytes = 0;
		const told = parts.map(({ front, isNumbered, behind, cells }) => {
			const { numbers, coded } = cells ?? {};
			const dictionary = (coded?.texts.reduce((sum, { length }) => sum + length, codedBytes) ?? Number.POSITIVE_INFINITY) <= CODED_BYTES ? runsOf(coded.texts) : void 0;
			const isCoded = dictionary !== void 0 && codedBytes + dictionary.bytes.length <= CODED_BYTES;
			if (isCoded) codedBytes += dictionary.bytes.length;
			const kind = cells === void 0 ? KIND.same : isCoded ? KIND.coded : numbers ? KIND.numbers : KIND.runs;
			const around = [give(UTF8.encode(front)), isNumbered === true ? 1 : 0];
			if (isCoded) {
				const [textsAt] = give(dictionary.bytes);
				const ends = dictionary.ends.map((end) => textsAt + end);
				around.push(give(new Uint8Array(ends.buffer)), [0, 0], give(UTF8.encode(coded.blank)));
			} else {
				const { before = behind ?? "", behind: last = "", blank = "" } = numbers ?? {};
				around.push(...[
					before,
					last,
					blank
				].map((text) => give(UTF8.encode(text))));
			}
			const cellsAt = cells === void 0 ? 0 : take((batch.most + 1) * 8);
			return [
				kind,
				...around.flat(),
				cellsAt,
				cells?.isLeftOut === true ? 1 : 0
			];
		});
		const at = {
			parts: take(parts.length * WORDS * 4),
			cells: told.map((words) => words[CELLS_WORD]),
			bytes: take(CELL_BYTES),
			out: take(OUT_BYTES)
		};
		const made = kernels(take(0) - FREE_FROM);
		if (made === void 0) return void 0;
		for (const { bytes, at: place } of given) new Uint8Array(made.memory, place, bytes.length).set(bytes);
		new Int32Array(made.memory, at.parts, parts.length * WORDS).set(told.flat());
		return new RowsKernel(batch, made.kernels, made.memory, at, told.map(([kind]) => kind));
	}
	/** Whether it writes the cells of a part itself in the next batch. */
	knows(p) {
		if (this.kinds[p] === KIND.runs) return false;
		if (this.wait[p] === 0) return true;
		this.wait[p]--;
		return false;
	}
	/** Adds the rows of the batch to what is written. */
	addTo(out) {
		const { batch } = this;
		const row = this.addRows(out);
		if (row < batch.rows) batch.addTo(out, row, batch.rows);
		for (let p = 0; p < batch.parts.length; p++) if (batch.isWritten[p] === 0) this.nextWait[p] = 1;
	}
	/** @returns the row before which there was no room for one, or for the texts that numbers were written as */
	addRows(out) {
		const { batch, kernel, places } = this;
		const { rows } = batch;
		for (let p = 0; p < batch.parts.length; p++) this.giveCells(p);
		let given = this.giveBytes(0);
		let row = 0;
		while (row < rows && given >= 0) {
			const end = kernel.rowBytes(places.parts, batch.parts.length, row, rows, batch.number, places.bytes, places.out, places.out + OUT_BYTES);
			out.putPiece(new Uint8Array(this.memory.slice(places.out, end)));
			const isStuck = kernel.rowBytesRows.value === row;
			row = kernel.rowBytesRows.value;
			const p = kernel.rowBytesPart.value;
			if (p >= 0) {
				this.wait[p] = this.nextWait[p];
				this.nextWait[p] = Math.min(MAX_WAIT, this.nextWait[p] * 2);
				batch.write(p, row);
				this.giveCells(p);
				given = this.giveBytes(given);
			} else if (isStuck) break;
		}
		return row;
	}
	giveCells(p) {
		const { batch, memory, places } = this;
		const { cells } = batch.parts[p];
		if (cells === void 0) return;
		const { from, rows } = batch;
		const at = places.cells[p];
		const kind = batch.isWritten[p] === 1 ? KIND.runs : this.kinds[p];
		new Int32Array(memory, places.parts + p * WORDS * 4, 1)[0] = kind;
		if (kind === KIND.numbers) new Float64Array(memory, at, rows).set(cells.numbers.values.subarray(from, from + rows));
		else if (kind === KIND.coded) new Int32Array(memory, at, rows).set(cells.coded.codes.subarray(from, from + rows));
		else new Int32Array(memory, at, rows + 1).set(batch.ends[p].subarray(0, rows + 1));
	}
	/** The bytes of cells from some byte on. @returns how many there are, or -1 where they have no room */
	giveBytes(from) {
		const { memory, places } = this;
		const { added } = this.batch.bytes;
		if (added.length > CELL_BYTES) return -1;
		new Uint8Array(memory, places.bytes).set(added.subarray(from), from);
		return added.length;
	}
};
/** Texts one behind the other, and where each ends with a zero before them. */
function runsOf(texts) {
	const each = texts.map((text) => UTF8.encode(text));
	const ends = new Int32Array(texts.length + 1);
	each.forEach(({ length }, k) => {
		ends[k + 1] = ends[k] + length;
	});
	return {
		bytes: concatenate(each),
		ends
	};
}
// core/write/rows/write-rows.ts
/** Fewer cells are written as fast without a kernel. */
var MIN_CELLS = 4096;
/**
* Adds rows of a table to what is written: the same bytes with a kernel and without.
* @param first number of the table's first row, where rows are numbered
* @param kernelFrom cells from which a kernel writes them, where there is one
*/
function writeRows(parts, { from, to }, out, { first = 0, kernelFrom = MIN_CELLS } = {}) {
	if (to <= from) return;
	if (!out.isPlain) {
		writeTexts(parts, from, to, out, first);
		return;
	}
	const batch = new Batch(parts, Math.min(to - from, roomFor(parts.length)), first);
	const kernel = (to - from) * parts.length < kernelFrom ? void 0 : RowsKernel.of(batch);
	for (let row = from; row < to; row += batch.rows) {
		batch.take(row, to, (p) => kernel?.knows(p) === true);
		if (kernel === void 0) batch.addTo(out, 0, batch.rows);
		else kernel.addTo(out);
	}
}
/** In another encoding than UTF-8, whose bytes cannot be put together before they are encoded. */
function writeTexts(parts, from, to, out, first) {
	for (let row = from; row < to; row++) for (const { front, isNumbered, behind, cells } of parts) {
		out.add(front);
		if (isNumbered === true) out.add(String(first + row));
		if (behind !== void 0) out.add(behind);
		cells?.write(row, out);
	}
}
// core/write/write-delimited.ts
/** RFC 4180: comma, CRLF, cells quoted where they must be; UTF-8 without a byte order mark. */
var STANDARD = {
	delimiter: ",",
	decimal: ".",
	yesno: "yes/no",
	quoting: "needed",
	lineEnd: "crlf",
	encoding: "utf-8",
	bom: false,
	guard: false
};
/** What a spreadsheet would take for a formula when it opens delimited text (OWASP, CSV injection), but for plain numbers. */
var FORMULA = /^(?:[=@\t\r]|[+-](?![\d\s.,]*%?$))/;
var BEGINS = stopsAt("=@	\r+-").fill(0, 128);
/** All signs of numbers: where these need no quotes, no number does. */
var OF_NUMBERS = "-+0123456789.eE";
/**
* A table as delimited text. Unreadable cells give their text, an empty text is quoted so that it is not a blank.
* @throws ExportStopped when the encoding has no place for a character
*/
function writeDelimited(table, choices = {}) {
	const chosen = {
		...STANDARD,
		...choices
	};
	const end = chosen.lineEnd === "crlf" ? "\r\n" : "\n";
	const quote = quoter(chosen);
	const named = (name) => quote(chosen.guard ? guarded(name) : name);
	const out = new TextBytes(encoderOf(chosen.encoding, table));
	if (chosen.bom && chosen.encoding.startsWith("utf")) out.add("﻿");
	out.add(`${table.fields.map((field) => named(field.name)).join(chosen.delimiter)}${end}`);
	const forms = formsOf(chosen, quote, table.fields.length === 1 ? "\"\"" : "");
	writeRows([...table.fields.map(({ column }, c) => ({
		front: c === 0 ? "" : chosen.delimiter,
		cells: partCells(column, forms)
	})), { front: end }], {
		from: 0,
		to: table.rows
	}, out);
	return out.all();
}
function quoter({ delimiter, quoting }) {
	return (text) => quoting === "all" || text === "" || text.includes(delimiter) || /["\r\n]/.test(text) ? `"${text.replaceAll("\"", "\"\"")}"` : text;
}
function formsOf({ delimiter, decimal, encoding, guard, quoting, yesno }, quote, blank) {
	const text = (one) => quote(guard ? guarded(one) : one);
	const words = yesno.split("/");
	const quotes = quoting === "all" ? "\"" : "";
	const arePlain = decimal === "." && quote(OF_NUMBERS) === quotes + OF_NUMBERS + quotes;
	const stops = stopsAt(`${delimiter}"\r\n${guard ? "=@	+-" : ""}`);
	return {
		blank,
		text,
		plain: encoding === "utf-8" && quoting === "needed" ? {
			stops,
			before: "",
			behind: ""
		} : void 0,
		number: (value) => quote(numberText(value, decimal)),
		aroundNumbers: arePlain ? {
			before: quotes,
			behind: quotes
		} : void 0,
		yesno: (value) => text(words[value ? 0 : 1])
	};
}
/** A text with a ' in front where a spreadsheet would take it for a formula. */
function guarded(text) {
	return FORMULA.test(text) ? `'${text}` : text;
}
/** Says which names and texts of a table an export guards, or undefined where it guards none. */
function guardedText(table, spec) {
	if (spec.as !== "csv" || !spec.guard) return void 0;
	let cells = 0;
	const columns = table.fields.flatMap(({ name, column }) => {
		let own = FORMULA.test(name) ? 1 : 0;
		if (table.rows > 0 && (column.type === "text" || column.type === "received")) {
			const spans = column.type === "text" ? spansOf(column) : void 0;
			own += spans === void 0 ? formulasIn(column) : formulasInRuns(spans);
		}
		cells += own;
		return own > 0 ? [name] : [];
	});
	if (cells === 0) return void 0;
	return `${counted(cells, "text")} in ${few(columns)} ${cells === 1 ? "begins like a formula and has a ' in front, so that no spreadsheet computes it" : "begin like a formula and have a ' in front, so that no spreadsheet computes them"}`;
}
function formulasIn(column) {
	const { codes, texts } = textView(column);
	const like = texts.map((text) => FORMULA.test(text));
	let count = 0;
	if (like.includes(true)) codes.forEach((code, r) => {
		if (code >= 0 && like[code] && typeof typedCell(column, r) !== "number") count++;
	});
	return count;
}
/** From the bytes, so that no column gets a dictionary for being looked at: few texts begin with a sign. */
function formulasInRuns(spans) {
	let count = 0;
	const { bytes, starts, lengths } = spans.places;
	for (let r = 0; r < starts.length; r++) {
		const start = starts[r];
		if (start < 0 || lengths[r] === 0) continue;
		if ((start >= bytes.length || BEGINS[bytes[start]] === 1) && FORMULA.test(spans.text(r))) count++;
	}
	return count;
}
/** Undefined for UTF-8, in which text is written anyway. */
function encoderOf(encoding, table) {
	if (encoding === "utf-8") return void 0;
	if (encoding === "utf-16le") return (text) => {
		const out = new Uint8Array(text.length * 2);
		const view = new DataView(out.buffer);
		for (let k = 0; k < text.length; k++) view.setUint16(k * 2, text.charCodeAt(k), true);
		return out;
	};
	const bytes = bytesOf(encoding);
	return (text) => {
		const out = new Uint8Array(text.length);
		for (let k = 0; k < text.length; k++) {
			const byte = bytes.get(text[k]);
			if (byte === void 0) throw noPlace(table, encoding, bytes);
			out[k] = byte;
		}
		return out;
	};
}
/** For each character of an encoding of single bytes its byte (WHATWG Encoding). */
function bytesOf(encoding) {
	const all = decoderOf(encoding).decode(Uint8Array.from({ length: 256 }, (_, byte) => byte));
	return new Map([...all].map((character, byte) => [character, byte]));
}
function noPlace(table, encoding, bytes) {
	const missing = (text) => [...text].find((character) => !bytes.has(character));
	for (const { name, column } of table.fields) {
		const inName = missing(name);
		if (inName !== void 0) return new ExportStopped(`${encoding} has no place for ${inName} in the name ${name}. Choose UTF-8.`);
		for (let r = 0; r < table.rows; r++) {
			const character = missing(cellText(column, r) ?? "");
			if (character !== void 0) return new ExportStopped(`${encoding} has no place for ${character} in ${name}, row ${r + 1}. Choose UTF-8.`);
		}
	}
	return new ExportStopped(`${encoding} cannot hold this table. Choose UTF-8.`);
}
export { concatenate as a, kindOf as c, writeParquet as d, ByteWriter as f, valuesOf as h, TextBytes as i, unreadableRows as l, valueKind as m, writeDelimited as n, partCells as o, textsOf as p, writeRows as r, stopsAt as s, guardedText as t, ParquetPieces as u };
