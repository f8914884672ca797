/**
 * Changes in the order in which they were made, sent one after the other.
 *
 * Of changes that set the very same fields only the newest waits, and it waits behind all before it. What cannot be
 * sent now is sent again, before anything newer; what is refused is told, and the next one goes.
 */
export type Kept = 'saved' | 'saving' | 'not saved';

export interface Line<Change, Answer> {
  send: (change: Change) => Promise<Answer>;
  /** What a change sets; of two that set the same the later makes the earlier idle. */
  sets: (change: Change) => string;
  /** Whether a failure is none of the change's, so that it will do later, and twice is as good as once. */
  isLater: (error: unknown, change: Change) => boolean;
  /** Resolves when it is time to send again. */
  pause: () => Promise<void>;
  keep: (kept: Kept) => void;
  arrived: (answer: Answer) => Promise<void>;
  refused: (error: Error) => Promise<void>;
  late: (error: Error) => void;
}

export class ChangeQueue<Change, Answer> {
  private waiting: Change[] = [];
  private after: (() => void)[] = [];
  private busy = false;

  constructor(private readonly line: Line<Change, Answer>) {}

  /** Put a change behind all others; `done` is called when everything has arrived. */
  push(change: Change, done?: () => void): void {
    if (done) this.after.push(done);
    this.waiting = [...this.waiting.filter((one) => this.line.sets(one) !== this.line.sets(change)), change];
    if (!this.busy) void this.drain();
  }

  private async drain(): Promise<void> {
    this.busy = true;
    this.line.keep('saving');
    for (let next = this.waiting.shift(); next !== undefined; next = this.waiting.shift())
      await this.sendOne(next);
    this.busy = false;
    this.line.keep('saved');
    for (const tell of this.after.splice(0)) tell();
  }

  private async sendOne(change: Change): Promise<void> {
    try {
      const answer = await this.line.send(change);
      this.line.keep(this.waiting.length ? 'saving' : 'saved');
      // What is newer shows in the next answer; showing this one first would take the screen back for a moment.
      if (!this.waiting.length) await this.line.arrived(answer);
    } catch (error) {
      if (!this.line.isLater(error, change)) return this.line.refused(error as Error);
      this.line.keep('not saved');
      this.line.late(error as Error);
      // It is older than all that waits, so it goes first, unless it was made anew meanwhile.
      if (!this.waiting.some((one) => this.line.sets(one) === this.line.sets(change)))
        this.waiting.unshift(change);
      await this.line.pause();
    }
  }
}
