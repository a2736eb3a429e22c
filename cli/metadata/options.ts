// The options of `metadata`.

/** Which files are meant. */
export interface Which {
  recursive: boolean;
}

export interface ShowOptions {
  json: boolean;
  blocks: boolean;
}

export interface SetOptions {
  /** Each `NAME=VALUE`. */
  field: readonly string[];
  addKeyword: readonly string[];
  removeKeyword: readonly string[];
  sidecar: boolean;
  dryRun: boolean;
  /** Where journals of writes stand. */
  journals: string;
}

/** A wrong command line, told with the way to the help. */
export class UsageError extends Error {}
