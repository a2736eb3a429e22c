// How much room there is on the disk of the data folder, where our own PostgreSQL keeps the catalogue. Work that takes room waits
// before the disk is full: a database that finds none stops.

import { freeBytesOn } from '../files/volume';

export interface Room {
  freeBytes: number;
  state: 'enough' | 'little' | 'none';
}

export type RoomLeft = () => Promise<Room>;

/** From how many times the least on it is told that there is little. */
const FORETOLD = 5;

/** Looks at the disk of a folder; `leastBytes` are to stay free. */
export function roomOn(folder: string, leastBytes: number): RoomLeft {
  return async () => {
    const freeBytes = await freeBytesOn(folder);
    const state = freeBytes < leastBytes ? 'none' : freeBytes < leastBytes * FORETOLD ? 'little' : 'enough';
    return { freeBytes, state };
  };
}
