import { spawn } from 'node:child_process';
import { build, installPackages, ROOT } from './set-up.mjs';

installPackages();
build();
const server = spawn(process.execPath, ['dist/node/cli.js', 'serve', ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
