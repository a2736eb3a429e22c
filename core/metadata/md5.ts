// MD5 (RFC 1321): the digest that image resource 0x0425 carries of the IIM block. Not used for security.

const SHIFTS = Uint8Array.of(7, 12, 17, 22, 5, 9, 14, 20, 4, 11, 16, 23, 6, 10, 15, 21);
/** The order of words in each round: factor × step + offset. */
const FACTORS = Uint8Array.of(1, 5, 3, 7);
const OFFSETS = Uint8Array.of(0, 1, 5, 0);
const SINES = Uint32Array.from({ length: 64 }, (_, i) => Math.floor(Math.abs(Math.sin(i + 1)) * 2 ** 32));

/** The 16 bytes of the MD5 digest of `message`. */
export function md5(message: Uint8Array): Uint8Array {
  const padded = new Uint8Array((((message.length + 8) >>> 6) + 1) * 64);
  padded.set(message);
  padded[message.length] = 0x80;
  const view = new DataView(padded.buffer);
  view.setUint32(padded.length - 8, (message.length * 8) >>> 0, true);
  view.setUint32(padded.length - 4, Math.floor(message.length / 2 ** 29), true);

  const state = Uint32Array.of(0x67452301, 0xefcdab89, 0x98badcfe, 0x10325476);
  const words = new Uint32Array(16);
  for (let block = 0; block < padded.length; block += 64) {
    for (let i = 0; i < 16; i++) words[i] = view.getUint32(block + i * 4, true);
    addBlock(state, words);
  }

  const digest = new Uint8Array(16);
  const out = new DataView(digest.buffer);
  state.forEach((word, i) => out.setUint32(i * 4, word, true));
  return digest;
}

/** One block of 64 bytes (RFC 1321, section 3.4): four rounds of sixteen steps, each with its mixing function and its order of words. */
function addBlock(state: Uint32Array, words: Uint32Array): void {
  let [a = 0, b = 0, c = 0, d = 0] = state;
  for (let i = 0; i < 64; i++) {
    const round = i >> 4;
    const mix = mixed(round, b, c, d);
    const sum =
      (a + mix + (SINES[i] ?? 0) + (words[((FACTORS[round] ?? 0) * i + (OFFSETS[round] ?? 0)) & 15] ?? 0)) | 0;
    const shift = SHIFTS[(round << 2) | (i & 3)] ?? 0;
    a = d;
    d = c;
    c = b;
    b = (b + ((sum << shift) | (sum >>> (32 - shift)))) | 0;
  }
  state[0] = (state[0] ?? 0) + a;
  state[1] = (state[1] ?? 0) + b;
  state[2] = (state[2] ?? 0) + c;
  state[3] = (state[3] ?? 0) + d;
}

function mixed(round: number, b: number, c: number, d: number): number {
  if (round === 0) return (b & c) | (~b & d);
  if (round === 1) return (d & b) | (~d & c);
  return round === 2 ? b ^ c ^ d : c ^ (b | ~d);
}
