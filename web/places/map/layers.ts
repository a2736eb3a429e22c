// What lies above what on the map, from the ground up; outlines that ship along lie below all of it.

export const LAYERS = { land: 1, oldMaps: 2, own: 3, areas: 4, tracks: 5, photos: 6, picked: 7 } as const;
