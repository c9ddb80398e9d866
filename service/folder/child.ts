/** Runs jobs in its own process, which may break down without taking the server with it. */
import { type Arrival, runArrival } from './run-arrival.ts';

process.on('message', (arrival: Arrival) => {
  void runArrival(arrival).then(
    (result) => process.send!(result),
    (error: Error) => process.send!({ as: 'failed', why: `The calculation crashed: ${error.message}` }),
  );
});
// The server is gone: nobody waits for the result.
process.on('disconnect', () => process.exit(0));
