// When films and sounds were made, as their containers say it.

/**
 * When a film or sound was made. `created`: ISO 8601, with a zone or in UTC (`Z`, which many cameras write for their own clock: no zone is
 * taken of it), or only `HH:MM:SS` as the bext chunk has it; `date`: a day, for that.
 */
export function creationMoment(
  created: string | undefined,
  date: string | undefined,
): { takenAt?: string; offset?: string } {
  const [, moment, zone] =
    /^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2})(?:\.\d+)?(Z|[+-]\d{2}:?\d{2})?$/.exec(created ?? '') ?? [];
  if (moment !== undefined && !Number.isNaN(Date.parse(`${moment}Z`))) {
    // 1904 and 1970 are where clocks that were never set begin.
    if (/^(1904-01-01|1970-01-01)T00/.test(moment)) return {};
    return zone === undefined || zone === 'Z'
      ? { takenAt: moment }
      : { takenAt: moment, offset: zone.replace(/^(.\d{2})(\d{2})$/, '$1:$2') };
  }
  const clock = /^\d{2}:\d{2}:\d{2}$/.exec(created ?? '')?.[0];
  const day = /^\d{4}-\d{2}-\d{2}$/.exec(date ?? '')?.[0];
  return clock !== undefined && day !== undefined && !Number.isNaN(Date.parse(`${day}T${clock}Z`))
    ? { takenAt: `${day}T${clock}` }
    : {};
}
