// Files whose address in the built interface is imported.
declare module '*?url' {
  const address: string;
  export default address;
}
