// The folder that holds all of some folders.

/** The deepest folder (a path with `/` between, '' for the drive) that contains all of them, or is one of them. */
export function commonFolder(folders: readonly string[]): string {
  const [first = '', ...others] = folders;
  let steps = first === '' ? [] : first.split('/');
  for (const folder of others) {
    const other = folder.split('/');
    const differs = steps.findIndex((step, i) => step !== other[i]);
    if (differs >= 0) steps = steps.slice(0, differs);
  }
  return steps.join('/');
}
