export async function browserBench(): Promise<void> {}
