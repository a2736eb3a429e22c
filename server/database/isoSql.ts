/** SQL for a time with zone as ISO 8601 text in UTC. */
export function isoSql(column: string): string {
  return `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;
}
