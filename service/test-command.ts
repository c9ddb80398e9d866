/** The command line in this process, which is faster by far than starting one for each test. For tests only. */
import { rimefield } from './commands.ts';

export async function runCommand(args: readonly string[], input = new Uint8Array()) {
  let [out, error] = ['', ''];
  const decoder = new TextDecoder();
  const status = await rimefield(args, {
    input: () => input,
    output: (bytes) => {
      out += decoder.decode(bytes, { stream: true });
    },
    error: (text) => {
      error += text;
    },
    terminal: false,
  });
  return { status, out, error };
}
