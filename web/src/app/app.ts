import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Help } from './help/help';
import { cutAtGreatestLength } from './platform/greatest-length';
import { isTypedInto } from './platform/typed-into';
import { Notices } from './platform/notices';
import { NoticesOutlet } from './shell/notices-outlet';

@Component({
  selector: 'pr-root',
  imports: [NoticesOutlet, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<router-outlet /><pr-notices-outlet aria-live="polite" />',
  styles: ':host { display: block; height: 100%; }',
  host: { '(beforeinput)': 'typed($event)', '(window:keydown)': 'pressed($event)' },
})
export class App {
  private readonly notices = inject(Notices);

  private readonly help = inject(Help);

  protected pressed(event: KeyboardEvent): void {
    if (event.key !== '?' || event.defaultPrevented || isTypedInto(event.target as HTMLElement)) return;
    // The customer's page has no help of the shop's.
    if (!document.querySelector('pr-masthead')) return;
    event.preventDefault();
    void this.help.toggle();
  }

  protected typed(event: InputEvent): void {
    this.notices.say(cutAtGreatestLength(event) ?? '');
  }
}
