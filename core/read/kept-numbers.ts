import type { Notice } from '../kinds/step.ts';
import { counted } from '../values/counted.ts';

/** Numbers that are kept as text, since a number would lose digits of them. */
export class KeptNumbers {
  count = 0;
  /** The first of them. */
  private readonly examples: string[] = [];

  add(number: string): void {
    this.count++;
    if (this.examples.length < MAX_EXAMPLES) this.examples.push(number);
  }

  addAll(others: KeptNumbers): void {
    this.count += others.count;
    this.examples.push(...others.examples.slice(0, MAX_EXAMPLES - this.examples.length));
  }

  notices(): Notice[] {
    if (this.count === 0) return [];
    const more = this.count > this.examples.length ? ', …' : '';
    return [
      {
        severity: 'warning',
        text: `${counted(this.count, 'number')} kept as text, because a number would lose digits: ${this.examples.join(', ')}${more}`,
      },
    ];
  }
}

const MAX_EXAMPLES = 3;
