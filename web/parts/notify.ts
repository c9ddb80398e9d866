/** Messages that pass by. What shows them is loaded behind the first page; those said before wait for it. */

export interface Message {
  text: string;
  tone?: 'plain' | 'info' | 'warning' | 'error';
  /** Takes longer to read. */
  long?: boolean;
  /** Stays until it is taken away or done; of several that read the same, one is shown. */
  stays?: boolean;
  once?: boolean;
  /** What can be done about it. It takes the message away. */
  act?: { label: string; run(): unknown };
}

type Shows = (message: Message) => void;

let arrive: (shows: Shows) => void;
const shown = new Promise<Shows>((resolve) => {
  arrive = resolve;
});

export function notify(message: Message): void {
  void shown.then((show) => show(message));
}

/** Called once by what shows them. */
export function showMessagesBy(shows: Shows): void {
  arrive(shows);
}
