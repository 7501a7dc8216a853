/** The bytes of an array that may be a part of its memory. */
export const bytesOf = ({ buffer, byteOffset, byteLength }: ArrayBufferView): Uint8Array =>
  new Uint8Array(buffer, byteOffset, byteLength);
