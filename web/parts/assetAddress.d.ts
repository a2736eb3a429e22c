// Files whose address in the built interface is imported.
declare module '*?url' {
  const address: string;
  export default address;
}

// Worker threads, whose address in the built interface is imported.
declare module '*?worker&url' {
  const address: string;
  export default address;
}
