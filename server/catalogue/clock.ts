// Local time, as people who ask mean it: that of the server.

/** The day on which a query is asked, `YYYY-MM-DD`. */
export function today(now = new Date()): string {
  const [year, month, day] = [now.getFullYear(), now.getMonth() + 1, now.getDate()];
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

/** SQL for the local time, to the second, of a time with zone. */
export function localSql(column: string): string {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return `date_trunc('second', ${column} at time zone '${zone.replaceAll("'", "''")}')`;
}
