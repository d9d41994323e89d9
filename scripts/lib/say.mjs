/** An error that a person can fix: its message is the whole sentence to print. */
export class Trouble extends Error {}

export function say(text) {
  console.log(text);
}

/** Runs a script's main function; trouble ends it with its sentence, anything else with its stack. */
export async function runMain(main) {
  try {
    await main();
  } catch (error) {
    console.error(error instanceof Trouble ? error.message : error);
    process.exit(1);
  }
}
