import { Injectable } from '@angular/core';
import { type FontEntry } from '@plain-relief/core/type';

/** The shipped fonts as faces of the page, for samples; loaded when a list of them is opened. */
@Injectable({ providedIn: 'root' })
export class FontFaces {
  private readonly asked = new Set<string>();

  load(entries: readonly FontEntry[]): void {
    for (const entry of entries) {
      if (entry.kind !== 'outline' || this.asked.has(entry.id)) continue;
      this.asked.add(entry.id);
      const face = new FontFace(`sample ${entry.id}`, `url("/fonts/${entry.file}")`);
      document.fonts.add(face);
      // A sample that does not load is shown in the page's own face.
      face.load().catch(() => this.asked.delete(entry.id));
    }
  }

  /** CSS font family of an entry's sample. */
  family(entry: FontEntry): string {
    return `"sample ${entry.id}", "Alegreya Sans", sans-serif`;
  }
}
