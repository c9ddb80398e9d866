/** Everything that is checked, on a machine with only Node and npm: types, lint, unit tests, browser tests. */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
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

/** Names of failed tests, each with the first lines of what it said: the end of a long output is what is read first. */
const failures = [];

/** Keeps a failed test for the end. @param said what the runner tells, with or without colours */
function keepFailure(name, said = '') {
  const plain = stripVTControlCharacters(said).split('\n').slice(0, 12);
  failures.push([name, ...plain.map((line) => `    ${line}`)].join('\n'));
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

/** Browser tests that ended so, each by file and title, with the first error it told. */
function endedAs(status, suites, above = []) {
  return suites.flatMap((one) => {
    const path = [...above, one.title];
    const own = (one.specs ?? []).flatMap((spec) =>
      spec.tests
        .filter((test) => test.status === status)
        .map((test) => ({
          name: [...path, spec.title].join(' › '),
          said: test.results.flatMap((result) => result.errors ?? [])[0]?.message,
        })),
    );
    return [...own, ...endedAs(status, one.suites ?? [], path)];
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
  (report) => {
    // A file that cannot even be loaded has no separate tests to count.
    const unread = report.testResults.filter((file) => file.status === 'failed' && file.assertionResults.length === 0);
    for (const file of unread) keepFailure(file.name, file.message);
    for (const file of report.testResults)
      for (const test of file.assertionResults)
        if (test.status === 'failed') keepFailure(`${file.name} › ${test.fullName}`, test.failureMessages.join('\n'));
    return { passed: report.numPassedTests, failed: report.numFailedTests + unread.length };
  },
);
const browser = join(results, 'e2e.json');
let flaky = [];
suite('Browser tests', 'npx', ['playwright', 'test'], browser, ({ stats, suites }) => {
  flaky = endedAs('flaky', suites);
  for (const { name, said } of endedAs('unexpected', suites)) keepFailure(name, said);
  return { passed: stats.expected + stats.flaky, failed: stats.unexpected };
});

say('');
for (const line of stages) say(line);
say(flaky.length === 0 ? 'No test needed a second try.' : `${flaky.length} needed a second try:`);
for (const { name } of flaky) say(`  ${name}`);
if (failures.length > 0) say(`\nFailed:\n${failures.join('\n')}`);
say(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed === 0 && counts.passed > 0 ? 0 : 1);
