/** SQL for a file name without its extension, in small letters: what files that belong together share. */
export function baseNameSql(name: string): string {
  return `lower(regexp_replace(${name}, '\\.[^.]*$', ''))`;
}
