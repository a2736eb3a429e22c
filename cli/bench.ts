export function bench(_args: string[]): Promise<number> {
  return Promise.resolve(0);
}
