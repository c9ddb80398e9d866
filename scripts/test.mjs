/** Everything that is checked, on a machine with only Node and npm: types, lint, unit tests, browser tests. */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, installChromium, installPackages, installPostgres, ROOT, run, say } from './set-up.mjs';

installPackages();
installChromium();
installPostgres();

const results = join(ROOT, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

const counts = { passed: 0, failed: 0 };

/** What each stage took and how it went, said once more at the end. */
const stages = [];

/** Runs a stage under its name. @param work gives what passed and what failed */
function stage(name, work) {
  say(`\n== ${name}`);
  const began = performance.now();
  const { passed, failed } = work();
  counts.passed += passed;
  counts.failed += failed;
  const seconds = Math.round((performance.now() - began) / 1000);
  stages.push(`${name}: ${passed} passed, ${failed} failed, ${seconds} s`);
  if (failed > 0) say(`${name} failed`);
}

/** A check that either holds or not. */
function check(name, command, args) {
  stage(name, () => (run(command, args) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }));
}

/** A test runner whose own count is read from the report it writes. */
function suite(name, command, args, report, read) {
  stage(name, () => {
    const well = run(command, args);
    const found = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : { passed: 0, failed: 0 };
    // A runner that ends badly without a failed test, or runs none at all, is a failure too.
    if (found.failed === 0 && (!well || found.passed === 0)) found.failed = 1;
    return found;
  });
}

/** Tests that passed only when they were tried again, by file and title. */
function flakyIn(suites, above = []) {
  return suites.flatMap((one) => {
    const path = [...above, one.title];
    const own = (one.specs ?? []).filter((spec) => spec.tests.some((test) => test.status === 'flaky'));
    return [...own.map((spec) => [...path, spec.title].join(' › ')), ...flakyIn(one.suites ?? [], path)];
  });
}

check('Types', process.execPath, ['scripts/types.mjs']);
check('Lint', 'npx', ['biome', 'check', '--error-on-warnings', '.']);
// The packed package is tested too.
stage('Build', () => {
  build();
  return { passed: 1, failed: 0 };
});
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
const browser = join(results, 'e2e.json');
let flaky = [];
suite('Browser tests', 'npx', ['playwright', 'test'], browser, ({ stats, suites }) => {
  flaky = flakyIn(suites);
  return { passed: stats.expected + stats.flaky, failed: stats.unexpected };
});

say('');
for (const line of stages) say(line);
say(flaky.length === 0 ? 'No test needed a second try.' : `${flaky.length} needed a second try:`);
for (const name of flaky) say(`  ${name}`);
say(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed === 0 && counts.passed > 0 ? 0 : 1);
