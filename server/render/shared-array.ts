/** Typed arrays over memory that threads share. TypeScript keeps the two kinds of buffer apart; the arrays do not. */
const shared = (bytes: number): ArrayBuffer => new SharedArrayBuffer(bytes) as unknown as ArrayBuffer;

export const sharedUint8 = (length: number): Uint8Array<ArrayBuffer> => new Uint8Array(shared(length));
export const sharedUint16 = (length: number): Uint16Array<ArrayBuffer> => new Uint16Array(shared(length * 2));
