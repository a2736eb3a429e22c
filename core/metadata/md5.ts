// MD5 (RFC 1321): the digest that image resource 0x0425 carries of the IIM block. Not used for security.

const SHIFTS = [7, 12, 17, 22, 5, 9, 14, 20, 4, 11, 16, 23, 6, 10, 15, 21];
const SINES = Array.from({ length: 64 }, (_, i) => Math.floor(Math.abs(Math.sin(i + 1)) * 2 ** 32));

/** The 16 bytes of the MD5 digest of `message`. */
export function md5(message: Uint8Array): Uint8Array {
  const padded = new Uint8Array((((message.length + 8) >>> 6) + 1) * 64);
  padded.set(message);
  padded[message.length] = 0x80;
  const view = new DataView(padded.buffer);
  view.setUint32(padded.length - 8, (message.length * 8) >>> 0, true);
  view.setUint32(padded.length - 4, Math.floor(message.length / 2 ** 29), true);

  const state = [0x67452301, 0xefcdab89, 0x98badcfe, 0x10325476];
  for (let block = 0; block < padded.length; block += 64) addBlock(state, view, block);

  const digest = new Uint8Array(16);
  const out = new DataView(digest.buffer);
  state.forEach((word, i) => out.setUint32(i * 4, word >>> 0, true));
  return digest;
}

function addBlock(state: number[], view: DataView, block: number): void {
  let [a = 0, b = 0, c = 0, d = 0] = state;
  for (let i = 0; i < 64; i++) {
    const round = i >> 4;
    const [mix, word] = mixOf(round, i, b, c, d);
    const sum = (a + mix + (SINES[i] ?? 0) + view.getUint32(block + word * 4, true)) | 0;
    const shift = SHIFTS[round * 4 + (i & 3)] ?? 0;
    a = d;
    d = c;
    c = b;
    b = (b + ((sum << shift) | (sum >>> (32 - shift)))) | 0;
  }
  [a, b, c, d].forEach((word, i) => (state[i] = ((state[i] ?? 0) + word) | 0));
}

/** The round's mixing function of RFC 1321, section 3.4, and which word of the block it takes. */
function mixOf(round: number, i: number, b: number, c: number, d: number): [mix: number, word: number] {
  if (round === 0) return [(b & c) | (~b & d), i];
  if (round === 1) return [(d & b) | (~d & c), (5 * i + 1) & 15];
  if (round === 2) return [b ^ c ^ d, (3 * i + 5) & 15];
  return [c ^ (b | ~d), (7 * i) & 15];
}
