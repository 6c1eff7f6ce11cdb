import { ChangeDetectionStrategy, Component } from '@angular/core';

/** What stands where a part of the page could not be fetched. */
@Component({
  selector: 'twin-lost-part',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `This part of the page has not come, because the server can’t be reached. Reload the page once it is back.`,
  styles: ':host { display: block; padding: 1rem; }',
  host: { role: 'alert' },
})
export class LostPart {}
