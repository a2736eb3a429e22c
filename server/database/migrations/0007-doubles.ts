// Finding pictures that look alike: 64 bits in four bands of 16. Of two pictures that differ in at most seven bits one
// band at least differs in no more than one, so looking for each band and its 16 neighbours finds them by index.

export const sql = `
create function likeness_band(likeness bigint, band int) returns int language sql immutable parallel safe
  return ((likeness >> (16 * band)) & 65535)::int;
create function neighbouring_bands(band int) returns int[] language sql immutable parallel safe
  return array[band, band # 1, band # 2, band # 4, band # 8, band # 16, band # 32, band # 64, band # 128, band # 256, band # 512,
    band # 1024, band # 2048, band # 4096, band # 8192, band # 16384, band # 32768];
create index photo_band_0 on photo (likeness_band(likeness, 0)) where likeness is not null;
create index photo_band_1 on photo (likeness_band(likeness, 1)) where likeness is not null;
create index photo_band_2 on photo (likeness_band(likeness, 2)) where likeness is not null;
create index photo_band_3 on photo (likeness_band(likeness, 3)) where likeness is not null;
`;
