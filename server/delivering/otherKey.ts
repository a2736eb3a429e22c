// What is said where a server is not the one that it was.

/** Says that a server has shown another key than the one it is known by. */
export class OtherKey extends Error {
  constructor(readonly shown: string) {
    super(
      `its key is another one than before (${shown}). If the server was set up anew, try it again and keep the new key; else somebody may stand between`,
    );
  }
}
