// All keys of the application in one table: what they do, and how the overview shows them. What a screen does with them
// is told by useKeys.

export type KeyAction =
  | 'keys'
  | 'undo'
  | 'redo'
  | 'query'
  | 'terms'
  | 'pad'
  | 'addBelow'
  | 'addBeside'
  | 'merge'
  | 'go'
  | 'cutPhotos'
  | 'copyPhotos'
  | 'pastePhotos'
  | 'drawer'
  | 'chooseAll'
  | 'chooseNone'
  | 'saveSearch'
  | 'narrow'
  | 'ruler'
  | 'nextOne'
  | 'oneBefore'
  | 'calendar'
  | 'build'
  | 'why'
  | 'gather'
  | 'pocket'
  | 'pin'
  | 'earlier'
  | 'later'
  | 'left'
  | 'right'
  | 'up'
  | 'down'
  | 'first'
  | 'last'
  | 'toggle'
  | 'open'
  | 'compare'
  | 'pass'
  | 'zoom'
  | 'zoomIn'
  | 'zoomOut'
  | 'faces'
  | 'loupe'
  | 'clipping'
  | 'edges'
  | 'histogram'
  | 'caption'
  | 'words'
  | 'thenAndNow'
  | 'turnLeft'
  | 'turnRight'
  | 'frameBack'
  | 'pageOn'
  | 'pageBack'
  | 'frameOn'
  | 'poster'
  | 'slower'
  | 'faster'
  | 'mute'
  | 'repeat'
  | 'fullScreen'
  | 'keep'
  | 'dropOut'
  | 'second'
  | 'openBurst'
  | 'lookalikes'
  | 'stepBack'
  | 'nextGroup'
  | 'groupBefore'
  | 'nextStretch'
  | 'stretchBefore'
  | 'fields'
  | 'template'
  | 'replaceText'
  | 'copyFields'
  | 'pasteFields'
  | 'repeatDescription'
  | 'sameAsBefore'
  | 'yes'
  | 'no'
  | 'who'
  | 'unnamed'
  | 'noFace'
  | 'like'
  | 'nextFace'
  | 'drawFace'
  | 'nameFace'
  | 'people'
  | 'deliver'
  | 'move'
  | 'rename'
  | 'trash'
  | 'bundle'
  | 'unbundle'
  | 'openBundles'
  | 'closeBundles'
  | `rate${0 | 1 | 2 | 3 | 4 | 5}`
  | 'reject';

export const KEY_GROUPS = ['Everywhere', 'Photos', 'Looking', 'Describing', 'People', 'Files', 'Vocabulary'] as const;
type KeyGroup = (typeof KEY_GROUPS)[number];

export interface KeyEntry {
  action: KeyAction;
  /** As KeyboardEvent.key has it. */
  key: string;
  control?: boolean;
  shift?: boolean;
  /** Shift may be held, and means "extend". */
  extends?: boolean;
  shown: string;
  help: string;
  group: KeyGroup;
}

export const KEYS: readonly KeyEntry[] = [
  { action: 'undo', key: 'z', control: true, shown: 'Ctrl Z', help: 'Undo your last change', group: 'Everywhere' },
  { action: 'redo', key: 'z', control: true, shift: true, shown: 'Ctrl Shift Z', help: 'Redo it', group: 'Everywhere' },
  { action: 'query', key: '/', shown: '/', help: 'Go to the query line', group: 'Everywhere' },
  { action: 'saveSearch', key: 's', shown: 'S', help: 'Save the search', group: 'Everywhere' },
  {
    action: 'narrow',
    key: 'n',
    shift: true,
    shown: 'Shift N',
    help: 'Narrow the result by facets',
    group: 'Everywhere',
  },
  { action: 'ruler', key: 'r', shift: true, shown: 'Shift R', help: 'Go to the time ruler', group: 'Everywhere' },
  {
    action: 'calendar',
    key: 'k',
    shift: true,
    shown: 'Shift K',
    help: 'Calendar and events of the result',
    group: 'Everywhere',
  },
  { action: 'nextOne', key: 'j', shown: 'J', help: 'Next photo of a work list, or skip it', group: 'Everywhere' },
  { action: 'oneBefore', key: 'j', shift: true, shown: 'Shift J', help: 'The one before', group: 'Everywhere' },
  { action: 'build', key: 'q', shift: true, shown: 'Shift Q', help: 'Build the query', group: 'Everywhere' },
  { action: 'why', key: 'w', shift: true, shown: 'Shift W', help: 'Why is this photo here, or not?', group: 'Photos' },
  { action: 'pin', key: 'g', shift: true, shown: 'Shift G', help: 'Put the chosen photos at the pin', group: 'Photos' },
  { action: 'pocket', key: '+', shown: '+', help: 'Into your pocket, or out of it', group: 'Photos' },
  { action: 'gather', key: '.', shown: '.', help: 'Into the pinned dossier, or out of it', group: 'Photos' },
  {
    action: 'earlier',
    key: 'ArrowLeft',
    control: true,
    shift: true,
    shown: 'Ctrl Shift ←',
    help: 'Earlier in the dossier',
    group: 'Photos',
  },
  {
    action: 'later',
    key: 'ArrowRight',
    control: true,
    shift: true,
    shown: 'Ctrl Shift →',
    help: 'Later in the dossier',
    group: 'Photos',
  },
  {
    action: 'go',
    key: 'g',
    shown: 'G',
    help: 'Go to a folder, what is kept on top, or the day beside',
    group: 'Everywhere',
  },
  { action: 'drawer', key: 'd', shown: 'D', help: 'Fold or open the drawer', group: 'Everywhere' },
  { action: 'keys', key: '?', shown: '?', help: 'This overview', group: 'Everywhere' },
  {
    action: 'left',
    key: 'ArrowLeft',
    extends: true,
    shown: '←',
    help: 'Photo before; with Shift choose along',
    group: 'Photos',
  },
  { action: 'right', key: 'ArrowRight', extends: true, shown: '→', help: 'Next photo', group: 'Photos' },
  { action: 'up', key: 'ArrowUp', extends: true, shown: '↑', help: 'Row above', group: 'Photos' },
  { action: 'down', key: 'ArrowDown', extends: true, shown: '↓', help: 'Row below', group: 'Photos' },
  { action: 'first', key: 'Home', extends: true, shown: 'Home', help: 'First photo, or face', group: 'Photos' },
  {
    action: 'last',
    key: 'End',
    extends: true,
    shown: 'End',
    help: 'Last photo, or the face least like the others',
    group: 'Photos',
  },
  {
    action: 'nextGroup',
    key: 'ArrowRight',
    control: true,
    shown: 'Ctrl →',
    help: 'Next day or folder',
    group: 'Photos',
  },
  {
    action: 'groupBefore',
    key: 'ArrowLeft',
    control: true,
    shown: 'Ctrl ←',
    help: 'Day or folder before',
    group: 'Photos',
  },
  { action: 'nextStretch', key: 'ArrowDown', control: true, shown: 'Ctrl ↓', help: 'Next month', group: 'Photos' },
  { action: 'stretchBefore', key: 'ArrowUp', control: true, shown: 'Ctrl ↑', help: 'Month before', group: 'Photos' },
  {
    action: 'toggle',
    key: ' ',
    shown: 'Space',
    help: 'Choose this photo, or not; play what is looked at',
    group: 'Photos',
  },
  {
    action: 'chooseAll',
    key: 'a',
    control: true,
    shown: 'Ctrl A',
    help: 'Choose all the query finds',
    group: 'Photos',
  },
  { action: 'chooseNone', key: 'Escape', shown: 'Esc', help: 'Choose none', group: 'Photos' },
  {
    action: 'open',
    key: 'Enter',
    shown: 'Enter',
    help: 'Look at the photo, and back; mend a finding',
    group: 'Looking',
  },
  { action: 'zoom', key: 'z', shown: 'Z', help: 'Whole picture, or pixel by pixel', group: 'Looking' },
  { action: 'zoomIn', key: ']', shown: ']', help: 'Larger; in a film: a stretch ends here', group: 'Looking' },
  { action: 'zoomOut', key: '[', shown: '[', help: 'Smaller; in a film: a stretch begins here', group: 'Looking' },
  {
    action: 'faces',
    key: 'f',
    shift: true,
    shown: 'Shift F',
    help: 'Show or hide the boxes of faces',
    group: 'Looking',
  },
  { action: 'turnLeft', key: ',', shown: ',', help: 'Turn the chosen photos to the left', group: 'Describing' },
  { action: 'turnRight', key: ';', shown: ';', help: 'Turn them to the right', group: 'Describing' },
  { action: 'loupe', key: '=', shown: '=', help: 'Loupe under the pointer', group: 'Looking' },
  { action: 'clipping', key: '!', shown: '!', help: 'Show where light or shadow is lost', group: 'Looking' },
  { action: 'edges', key: '*', shown: '*', help: 'Show where edges are sharp', group: 'Looking' },
  { action: 'histogram', key: '#', shown: '#', help: 'Histogram', group: 'Looking' },
  { action: 'caption', key: ':', shown: ':', help: 'Show the caption with the picture', group: 'Looking' },
  { action: 'words', key: '"', shown: '"', help: 'Show the text in the picture', group: 'Looking' },
  { action: 'thenAndNow', key: '|', shown: '|', help: 'Of two compared: one over the other', group: 'Looking' },
  { action: 'pageOn', key: 'PageDown', shown: 'Page ↓', help: 'Next page of a document', group: 'Looking' },
  { action: 'pageBack', key: 'PageUp', shown: 'Page ↑', help: 'Page before', group: 'Looking' },
  { action: 'frameBack', key: '<', shown: '<', help: 'In a film: one picture back', group: 'Looking' },
  { action: 'frameOn', key: '>', shown: '>', help: 'In a film: one picture on', group: 'Looking' },
  { action: 'poster', key: '^', shown: '^', help: 'In a film: let this picture stand for it', group: 'Looking' },
  { action: 'slower', key: '(', shown: '(', help: 'Play slower', group: 'Looking' },
  { action: 'faster', key: ')', shown: ')', help: 'Play faster', group: 'Looking' },
  { action: 'mute', key: 'm', shown: 'M', help: 'Sound off, or on', group: 'Looking' },
  { action: 'repeat', key: 'r', shown: 'R', help: 'Play again and again', group: 'Looking' },
  { action: 'fullScreen', key: 'f', shown: 'F', help: 'Full screen', group: 'Looking' },
  { action: 'compare', key: 'c', shown: 'C', help: 'Compare two to six chosen photos', group: 'Looking' },
  { action: 'pass', key: 'p', shown: 'P', help: 'Pass through the chosen photos', group: 'Looking' },
  { action: 'keep', key: 'k', shown: 'K', help: 'In a pass: keep. On a work list: done with', group: 'Looking' },
  { action: 'second', key: 'h', shown: 'H', help: 'In a pass: hold as second choice', group: 'Looking' },
  { action: 'openBurst', key: 'i', shown: 'I', help: 'In a pass: go through a burst one by one', group: 'Looking' },
  { action: 'lookalikes', key: '&', shown: '&', help: 'Find photos that look like this one', group: 'Looking' },
  {
    action: 'dropOut',
    key: 'x',
    shown: 'X',
    help: 'In a pass: drop. Among faces: leave it out. On a work list: later',
    group: 'Looking',
  },
  { action: 'stepBack', key: 'Backspace', shown: '⌫', help: 'In a pass: one back', group: 'Looking' },
  { action: 'terms', key: 't', shown: 'T', help: 'Give a term to the chosen photos', group: 'Describing' },
  { action: 'pad', key: 't', shift: true, shown: 'Shift T', help: 'Open or close the term pad', group: 'Describing' },
  { action: 'fields', key: 'e', shift: true, shown: 'Shift E', help: 'Go to the fields', group: 'Describing' },
  { action: 'template', key: 'a', shift: true, shown: 'Shift A', help: 'Apply a template', group: 'Describing' },
  {
    action: 'replaceText',
    key: 'h',
    shift: true,
    shown: 'Shift H',
    help: 'Find and replace in fields',
    group: 'Describing',
  },
  {
    action: 'copyFields',
    key: 'y',
    shift: true,
    shown: 'Shift Y',
    help: 'Copy fields of the photo in focus',
    group: 'Describing',
  },
  { action: 'pasteFields', key: 'v', shift: true, shown: 'Shift V', help: 'Paste them', group: 'Describing' },
  {
    action: 'repeatDescription',
    key: 'l',
    shift: true,
    shown: 'Shift L',
    help: 'Repeat the last description on these photos',
    group: 'Describing',
  },
  { action: 'sameAsBefore', key: 'F8', shown: 'F8', help: 'In a field: as the photo before', group: 'Describing' },
  ...([1, 2, 3, 4, 5] as const).map((stars): KeyEntry => ({
    action: `rate${stars}`,
    key: String(stars),
    shown: String(stars),
    help: `Rate ${stars}`,
    group: 'Describing',
  })),
  { action: 'rate0', key: '0', shown: '0', help: 'Take the rating off', group: 'Describing' },
  { action: 'reject', key: '-', shown: '−', help: 'Reject', group: 'Describing' },
  {
    action: 'people',
    key: 'i',
    shift: true,
    shown: 'Shift I',
    help: 'Say who is in the chosen photos',
    group: 'People',
  },
  { action: 'yes', key: 'y', shown: 'Y', help: 'Yes: it is who is asked', group: 'People' },
  { action: 'no', key: 'n', shown: 'N', help: 'No: it is not', group: 'People' },
  { action: 'who', key: 'w', shown: 'W', help: 'Say who it is', group: 'People' },
  { action: 'unnamed', key: 'u', shown: 'U', help: 'Not to be named', group: 'People' },
  { action: 'noFace', key: 'o', shown: 'O', help: 'This is no face', group: 'People' },
  { action: 'like', key: 'l', shown: 'L', help: 'Find faces like this one', group: 'People' },
  { action: 'nextFace', key: 'p', shift: true, shown: 'Shift P', help: 'Next face of the photo', group: 'People' },
  { action: 'nameFace', key: 's', shift: true, shown: 'Shift S', help: 'Say who the face shows', group: 'People' },
  { action: 'drawFace', key: 'd', shift: true, shown: 'Shift D', help: 'Draw the box of a face', group: 'People' },
  { action: 'deliver', key: 'x', shift: true, shown: 'Shift X', help: 'Deliver the chosen photos', group: 'Files' },
  { action: 'move', key: 'm', shift: true, shown: 'Shift M', help: 'Move the chosen photos, or terms', group: 'Files' },
  {
    action: 'cutPhotos',
    key: 'x',
    control: true,
    shown: 'Ctrl X',
    help: 'Cut the chosen photos: Ctrl V moves them',
    group: 'Files',
  },
  {
    action: 'copyPhotos',
    key: 'c',
    control: true,
    shown: 'Ctrl C',
    help: 'Copy them: Ctrl V puts copies',
    group: 'Files',
  },
  {
    action: 'pastePhotos',
    key: 'v',
    control: true,
    shown: 'Ctrl V',
    help: 'Into the folder that is shown',
    group: 'Files',
  },
  { action: 'rename', key: 'F2', shown: 'F2', help: 'Rename them, or the term', group: 'Files' },
  { action: 'trash', key: 'Delete', shown: 'Del', help: 'Trash them, or remove the term', group: 'Files' },
  { action: 'bundle', key: 'b', shift: true, shown: 'Shift B', help: 'Bundle them', group: 'Files' },
  {
    action: 'unbundle',
    key: 'u',
    shift: true,
    shown: 'Shift U',
    help: 'Take them out of their bundle',
    group: 'Files',
  },
  { action: 'openBundles', key: 'o', shift: true, shown: 'Shift O', help: 'Open their bundles', group: 'Files' },
  { action: 'closeBundles', key: 'c', shift: true, shown: 'Shift C', help: 'Close their bundles', group: 'Files' },
  { action: 'addBelow', key: 'a', shown: 'A', help: 'Add a term below this one', group: 'Vocabulary' },
  { action: 'addBeside', key: 'b', shown: 'B', help: 'Add a term beside it', group: 'Vocabulary' },
  { action: 'merge', key: 'v', shown: 'V', help: 'Merge the chosen terms into another', group: 'Vocabulary' },
];

/** The entry a key press means; none if it means nothing. */
export function keyPressed(event: KeyboardEvent): KeyEntry | undefined {
  return KEYS.find((entry) => matches(entry, event));
}

function matches(entry: KeyEntry, event: KeyboardEvent): boolean {
  const control = event.ctrlKey || event.metaKey;
  if (event.altKey || control !== (entry.control ?? false)) return false;
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  if (key !== entry.key) return false;
  return entry.extends === true || isSign(entry.key) || event.shiftKey === (entry.shift ?? false);
}

/** Whether the character itself says which key it is: on some keyboards it takes Shift to write it. */
function isSign(key: string): boolean {
  return key.length === 1 && !/[a-z0-9 ]/.test(key);
}

/** The key of an action, as KeyboardEvent.key has it. */
export function keyOf(action: KeyAction): string {
  return KEYS.find((entry) => entry.action === action)?.key ?? '';
}

/** The key of an action as it is shown. */
export function shownKey(action: KeyAction): string {
  return KEYS.find((entry) => entry.action === action)?.shown ?? '';
}
