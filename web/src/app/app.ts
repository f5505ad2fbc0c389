import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { cutAtGreatestLength } from './platform/greatest-length';
import { Notices } from './platform/notices';
import { NoticesOutlet } from './shell/notices-outlet';

@Component({
  selector: 'pr-root',
  imports: [NoticesOutlet, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<router-outlet /><pr-notices-outlet aria-live="polite" />',
  styles: ':host { display: block; height: 100%; }',
  host: { '(beforeinput)': 'typed($event)' },
})
export class App {
  private readonly notices = inject(Notices);

  protected typed(event: InputEvent): void {
    this.notices.say(cutAtGreatestLength(event) ?? '');
  }
}
