/**
 * A sum that does not lose small parts beside large ones: Neumaier's improvement of Kahan's compensated summation
 * (Zeitschrift für Angewandte Mathematik und Mechanik 54, 1974).
 */
export class Sum {
  private total = 0;
  private lost = 0;

  clear(): void {
    this.total = 0;
    this.lost = 0;
  }

  add(value: number): void {
    const next = this.total + value;
    this.lost += Math.abs(this.total) >= Math.abs(value) ? this.total - next + value : value - next + this.total;
    this.total = next;
  }

  get value(): number {
    return this.total + this.lost;
  }
}
