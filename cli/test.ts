export function test(_args: string[]): Promise<number> { return Promise.resolve(0); }
