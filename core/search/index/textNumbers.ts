// The number of each text of a table, by open addressing with linear probing (D. E. Knuth, TAOCP 3, section 6.4, algorithm L).
// A Map would do, but a million of its entries are a million things that each garbage collection has to look at.

const FIRST_SLOTS = 1024;

export class TextNumbers {
  /** One more than the number of the text in a slot; 0: the slot is free. There is always a free one. */
  private slots = new Int32Array(FIRST_SLOTS);
  private hashes = new Int32Array(FIRST_SLOTS);
  private count = 0;

  /** The texts themselves stand in the table, which tells whether the text of a number is another one. */
  constructor(private readonly isText: (number: number, text: string) => boolean) {}

  find(text: string): number | undefined {
    const found = this.slots[this.slotOf(text, hashOf(text))] ?? 0;
    return found === 0 ? undefined : found - 1;
  }

  /** Notes the number of a text that is not known yet. */
  set(text: string, number: number): void {
    if ((this.count + 1) * 2 > this.slots.length) this.grow();
    this.put(this.slotOf(text, hashOf(text)), hashOf(text), number + 1);
    this.count++;
  }

  /** Where a text stands, or the free slot where it would. */
  private slotOf(text: string, hash: number): number {
    const { slots, hashes } = this;
    const mask = slots.length - 1;
    let slot = hash & mask;
    for (;;) {
      const found = slots[slot] ?? 0;
      if (found === 0 || (hashes[slot] === hash && this.isText(found - 1, text))) return slot;
      slot = (slot + 1) & mask;
    }
  }

  private put(slot: number, hash: number, value: number): void {
    this.slots[slot] = value;
    this.hashes[slot] = hash;
  }

  private grow(): void {
    const { slots, hashes } = this;
    this.slots = new Int32Array(slots.length * 2);
    this.hashes = new Int32Array(slots.length * 2);
    const mask = this.slots.length - 1;
    for (let i = 0; i < slots.length; i++) {
      const value = slots[i] ?? 0;
      if (value === 0) continue;
      let slot = (hashes[i] ?? 0) & mask;
      while (this.slots[slot] !== 0) slot = (slot + 1) & mask;
      this.put(slot, hashes[i] ?? 0, value);
    }
  }
}

/** FNV-1a over the code units (RFC 9923, section 2), its bits mixed so that the low ones tell texts apart. */
function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash ^ (hash >>> 15);
}
