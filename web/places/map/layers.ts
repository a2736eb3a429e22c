// What lies above what on the map, from the ground up; outlines that ship along lie below all of it.

export const LAYERS = { land: 1, streets: 2, oldMaps: 3, own: 4, areas: 5, tracks: 6, photos: 7, picked: 8 } as const;
