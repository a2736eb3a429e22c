// Every error a person can meet: code, HTTP status and sentence, in one table. `{name}` is filled in.

export const ERRORS = {
  notSignedIn: [401, 'Please sign in.'],
  wrongPassword: [401, 'This name and password do not belong together.'],
  presentPasswordWrong: [409, 'Your present password is another one.'],
  passwordRefused: [400, 'This password can’t be used: {why}.'],
  accountUnknown: [404, 'There is no account “{name}”.'],
  accountExists: [409, 'There is an account “{name}” already.'],
  secondFactorNeeded: [401, 'Type the code that your app shows, or one of your recovery codes.'],
  secondFactorWrong: [401, 'This code is not good (any more). Look at your app again.'],
  secondFactorThere: [409, 'Your account has a second factor already; take it off first.'],
  accountDisabled: [409, 'The account “{name}” is disabled. Enable it first.'],
  linkUsedUp: [410, 'This link is not good any more: it was used, or is too old. Ask a keeper for another one.'],
  lastKeeper: [409, 'That can’t be done to “{name}”: nobody would be left who may administer the archive.'],
  roleInUse: [409, 'The role “{name}” is still held: take it from {holders} first.'],
  roleFixed: [409, 'The role “{name}” is one that every archive has; make another one.'],
  nameTaken: [409, 'There is {what} named “{name}” already.'],
  foreignHost: [
    403,
    'Stellin does not answer at “{host}”. Where it is to be reached under that name, STELLIN_NAMES has to hold it.',
  ],
  foreignOrigin: [403, 'A page of “{origin}” may not ask this.'],
  demoOnly: [409, 'The demo works with the drives of its bay only; ./stellin start opens an archive for your own.'],
  notAllowed: [403, 'Your account ({role}) may not do this.'],
  outOfReach: [403, 'Your account ({role}) may not change {photos}.'],
  tooManyTries: [429, 'Too many tries. Please wait {wait} and try again.'],
  badRequest: [400, 'The request is not right: {problem}'],
  tooLarge: [413, 'The request is too large.'],
  notFound: [404, 'There is no {what}.'],
  driveAway: [409, 'The drive “{drive}” is away. Attach it and try again.'],
  driveReadOnly: [409, 'The drive “{drive}” can’t be written to.'],
  copiedDrive: [
    409,
    '“{drive}” carries the marker of another drive that is there too. Make it a drive of its own first.',
  ],
  outsideDrive: [400, 'The path “{path}” does not lie inside the drive.'],
  fileMissing: [404, 'The file “{file}” is not where it was. Look through its drive again to find it.'],
  fileUnreadable: [409, 'The file “{file}” can’t be read: {why}.'],
  notProven: [409, '“{drive}” is not emptied: {why}.'],
  folderUnusable: [400, 'The folder {folder} can’t be used: {why}.'],
  noCopyOfIt: [409, 'That can’t be put back: the file is not damaged any more, or the other one is no copy of it.'],
  noRoom: [409, 'There is not enough room on “{drive}”.'],
  otherPicture: [409, 'The picture in “{file}” is not the one that is missing.'],
  placeTaken: [409, '“{file}” is a photo of its own that was described here already.'],
  folderMissing: [404, 'The drive “{drive}” has no folder “{folder}”.'],
  alreadyRunning: [409, '“{job}” is running already.'],
  nothingToDo: [409, '{why}'],
  tookTooLong: [
    503,
    'This took longer than {minutes} minutes and was given up; nothing has changed. Choose fewer photos at once.',
  ],
  nothingToUndo: [409, 'There is nothing to undo.'],
  nothingToRedo: [409, 'There is nothing to redo.'],
  builtOn: [409, '“{title}” can’t be {reversed}: later entries built on it: {later}{more}. Take these back first.'],
  changedSince: [409, '“{title}” can’t be taken back: {why}.'],
  termExists: [409, '“{label}” stands there already, below {parent}.'],
  termInUse: [409, '“{label}” can’t be removed: {why}.'],
  termGone: [404, 'There is no such term (it may have been removed meanwhile).'],
  termChanged: [409, 'Somebody has changed the {what} of “{label}” meanwhile. Look at it again.'],
  termRefused: [409, 'That can’t be done: {why}.'],
  deprecatedGiven: [409, '“{label}” is no longer given{instead}.'],
  unreadableVocabulary: [400, '“{file}” can’t be taken in. {why}'],
  keepersOnly: [403, 'Only keepers change vocabularies, field sets and rules. You can propose a term.'],
  padExists: [409, 'There is a pad named “{name}” already.'],
  headingGiven: [409, '“{label}” is a heading: it groups other terms and can’t be given to a photo.'],
  notFinding: [503, 'Searching is not possible at the moment: {why}. Please try again.'],
  searchExists: [409, 'There is a saved search named “{name}” already.'],
  dossierExists: [409, 'There is a dossier “{name}” there already.'],
  dossierRefused: [409, '“{name}” can’t go there: {why}.'],
  unreadableTrack: [422, 'The track “{file}” can’t be read: {why}.'],
  serverRefused: [409, 'Nothing can be delivered to “{name}”: {why}.'],
  originalRefused: [409, '“{name}” can’t be downloaded: {why}.'],
  unreadableTable: [422, 'The table “{file}” can’t be read: {why}.'],
  unreadableMap: [422, '“{file}” is no street map that can be shown: {why}.'],
  unreadablePicture: [422, '“{file}” is no picture that can be read: {why}.'],
  clockRefused: [400, 'The clock of “{name}” can’t be kept so: {why}.'],
  planRefused: [409, 'The plan “{name}” can’t be kept so: {why}.'],
  unreadablePins: [400, 'No pins can be read from this: {why}.'],
  placeRefused: [400, 'The place “{name}” can’t be kept so: {why}.'],
  projectRefused: [400, 'The project “{name}” can’t be kept: {why}.'],
  projectClosed: [409, 'The project “{name}” is closed: nothing of it changes any more, unless it is opened again.'],
  projectDossier: [409, 'This is the dossier of the project “{name}”: it stays at the top. Remove the project first.'],
  projectUses: [409, 'The project “{name}” works with it. Give that another one first.'],
  searchRefused: [400, 'The search “{name}” can’t be kept: {problem}.'],
  searchGivesRights: [
    403,
    'What “{name}” finds is what some people may see: only who administers the archive changes or removes it.',
  ],
  searchNamed: [409, 'The saved search “{name}” can’t be removed: “{by}” asks for it.'],
  changedMeanwhile: [
    409,
    '{what} been changed meanwhile{by}. Nothing of yours is written yet: look at what stands there now, and decide.',
  ],
  describingRefused: [400, 'That can’t be done: {why}.'],
  describingTooSlow: [
    400,
    'This takes too long to work out, and was given up; nothing has changed. Is there a regular expression in it that never ends?',
  ],
  notYours: [403, '“{name}” is everybody’s: who made it changes it, and who keeps the vocabulary.'],
  preparedExists: [409, 'There is {what} named “{name}” already.'],
  personExists: [409, 'There is a person called “{name}” already. Add what tells them apart, or merge them.'],
  noFace: [409, 'No face can be seen there.'],
  markTaken: [409, 'There is a mark “{name}” with the letter {letter} already.'],
  filesOnTheWay: [409, 'The files of “{title}” are still on their way. Wait for them, or cancel that first.'],
  nameRefused: [400, '“{name}” can’t be used: {why}.'],
  folderNotEmpty: [409, 'The folder “{folder}” can’t be deleted: {why}.'],
  folderExists: [409, 'The drive “{drive}” has a folder “{folder}” already.'],
  bayMissing: [404, 'There is no drive bay here; it belongs to the demo.'],
  bayDrive: [409, '{why}'],
  tooMuchAtOnce: [503, 'Too many large pictures are asked for at once. Please try again in a moment.'],
  noPreview: [404, 'There is no preview of this photo: {why}'],
  databaseAway: [503, 'The database does not answer at the moment. What was saved is kept; please try again.'],
  unexpected: [500, 'Something went wrong on the server. It has been logged as {reference}.'],
} as const satisfies Record<string, readonly [status: number, message: string]>;

export type ErrorCode = keyof typeof ERRORS;

/** An error meant for the person who asked. */
export class StellinError extends Error {
  readonly status: number;

  constructor(
    readonly code: ErrorCode,
    values: Record<string, string | number> = {},
    readonly details?: unknown,
  ) {
    const [status, pattern] = ERRORS[code];
    super(pattern.replace(/\{(\w+)\}/g, (whole, name: string) => String(values[name] ?? whole)));
    this.status = status;
  }
}

/** The text of anything that was thrown. */
export function messageOf(error: unknown): string {
  return isObject(error) && typeof error['message'] === 'string' ? error['message'] : String(error);
}

/** The code of a file system error (`ENOENT`), undefined for others. */
export function systemCode(error: unknown): string | undefined {
  return isObject(error) && typeof error['code'] === 'string' ? error['code'] : undefined;
}

/** Errors may come from another realm (a worker, a test environment), where `instanceof Error` says no. */
function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null;
}
