/** Trouble that a person can do something about: what is wrong, then what to do, a line each. */
export class Trouble extends Error {
  readonly remedies: readonly string[];
  constructor(what: string, ...remedies: string[]) {
    super(what);
    this.remedies = remedies.filter(Boolean);
  }
}

/** Runs a command to its end; trouble is told in words, errors of our own with their stack. Sets the exit code. */
export async function run(work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (error instanceof Trouble) console.error(`omaggio: ${error.message}${error.remedies.map((line) => `\n         ${line}`).join('')}`);
    else console.error('omaggio met an error of its own:', error);
    process.exitCode = 1;
  }
}

export const say = (text: string): void => console.log(text);
export const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
