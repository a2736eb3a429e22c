export function shots(_args: string[]): Promise<number> {
  return Promise.resolve(0);
}
