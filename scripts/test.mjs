/** Everything that is checked, on a machine with only Node and npm: types, lint, unit tests, browser tests. */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, installChromium, installPackages, ROOT, run, say } from './set-up.mjs';

installPackages();
installChromium();

const results = join(ROOT, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

const counts = { passed: 0, failed: 0 };

/** A check that either holds or not. */
function check(name, command, args) {
  say(`\n== ${name}`);
  if (run(command, args)) counts.passed++;
  else {
    counts.failed++;
    say(`${name} failed`);
  }
}

/** A test runner whose own count is read from the report it writes. */
function suite(name, command, args, report, read) {
  say(`\n== ${name}`);
  const well = run(command, args);
  const found = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : { passed: 0, failed: 0 };
  // A runner that ends badly without a failed test, or runs none at all, is a failure too.
  if (found.failed === 0 && (!well || found.passed === 0)) found.failed = 1;
  counts.passed += found.passed;
  counts.failed += found.failed;
}

check('Types', process.execPath, ['scripts/types.mjs']);
check('Lint', 'npx', ['biome', 'check', '--error-on-warnings', '.']);
const unit = join(results, 'unit.json');
suite(
  'Unit tests',
  'npx',
  ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${unit}`],
  unit,
  (report) => ({
    passed: report.numPassedTests,
    failed:
      report.numFailedTests +
      report.testResults.filter((file) => file.status === 'failed' && file.assertionResults.length === 0).length,
  }),
);
build();
const browser = join(results, 'e2e.json');
suite('Browser tests', 'npx', ['playwright', 'test'], browser, ({ stats }) => ({
  passed: stats.expected + stats.flaky,
  failed: stats.unexpected,
}));

say(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed === 0 && counts.passed > 0 ? 0 : 1);
