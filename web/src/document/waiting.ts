/** The one edit of a document that waits for its turn: changes that come meanwhile are one with it. */
export class WaitingEdit {
  private whats: string[] = [];
  /** Whether its request has been asked for already. */
  asked = false;

  /** Add a change by what it does; give what the whole edit is called by now. */
  add(what: string): string {
    this.whats = [...new Set([...this.whats, what])];
    return this.whats.join(", ");
  }

  /** Its turn has come, or it is let go: give what it is called; what is changed from now on is another edit. */
  take(): string {
    const words = this.whats.join(", ");
    this.whats = [];
    this.asked = false;
    return words;
  }
}
