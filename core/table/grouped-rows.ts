/** Rows in lists: group g has items[starts[g]] up to items[starts[g + 1]]. */
export interface Members {
  starts: Int32Array;
  items: Int32Array;
}

/** Rows by the number of their group, with lists of each group's rows made when somebody asks for them. */
export class GroupedRows implements Members {
  private lists: Members | undefined;

  /** @param of number of each row's group; -1 for a row in none */
  constructor(
    readonly of: Int32Array,
    readonly count: number,
  ) {}

  get starts(): Int32Array {
    this.lists ??= groupMembers(this.of, this.count);
    return this.lists.starts;
  }

  get items(): Int32Array {
    this.lists ??= groupMembers(this.of, this.count);
    return this.lists.items;
  }

  /** Rows of each group. */
  sizes(): Int32Array {
    const sizes = new Int32Array(this.count);
    for (let r = 0; r < this.of.length; r++) if (this.of[r]! >= 0) sizes[this.of[r]!]!++;
    return sizes;
  }
}

/** The rows of each group, ascending. */
export function groupMembers(of: Int32Array, count: number): Members {
  const starts = new Int32Array(count + 1);
  let members = 0;
  for (let r = 0; r < of.length; r++) {
    const group = of[r]!;
    if (group < 0) continue;
    starts[group + 1]!++;
    members++;
  }
  for (let g = 0; g < count; g++) starts[g + 1]! += starts[g]!;
  const items = new Int32Array(members);
  const at = starts.slice(0, count);
  for (let r = 0; r < of.length; r++) {
    const group = of[r]!;
    if (group >= 0) items[at[group]!++] = r;
  }
  return { starts, items };
}
