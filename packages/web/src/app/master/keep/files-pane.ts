import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { Subject, catchError, firstValueFrom, of, switchMap } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { LinkView, ShelfFile } from '@inkwell-twin/api';
import {
  type Command,
  type Description,
  type Master,
  type Resource,
  describePictures,
  linkTo,
  linkedIn,
  replaceResource,
  setLink,
  usesInWords,
} from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { Api } from '../../services/api.service';
import { ServerEvents } from '../../services/events.service';
import { DescribeFields } from '../../shared/describe-fields';
import { sizeInWords, counted } from '../../shared/words';

interface Row {
  readonly file: Resource;
  readonly role: string;
  readonly uses: readonly { readonly id: string; readonly words: string }[];
  /** How it stands, for one that is linked; null until the server has looked. */
  readonly link: LinkView | null;
  /** What is said of it, in words. */
  readonly said: string;
}

const ROLES: Readonly<Record<Resource['role'], string>> = {
  original: 'what this was brought in from',
  picture: 'picture',
  solid: 'solid',
};

/** The files that a master keeps or links to: each can be taken out as it came, linked, put in, and mended. */
@Component({
  selector: 'twin-files',
  imports: [Checkbox, DescribeFields, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Files</h3>
    @if (choosing(); as wanted) {
      <div class="choice" role="group" [attr.aria-label]="wanted.file ? 'Another file for ' + wanted.file.name : 'A picture on the shelf'">
        <p>
          {{ wanted.file ? 'Which file on the shelf is ' + wanted.file.name + ' now?' : 'A picture on the shelf, to be linked.' }}
          <button type="button" class="link" (click)="choosing.set(null)">Leave it</button>
        </p>
        <input pInputText pSize="small" type="search" aria-label="Find among files on the shelf" placeholder="part of its name" [value]="sought()" (input)="sought.set($any($event.target).value)" />
        <ul>
          @for (one of choices(); track one.path) {
            <li><button type="button" (click)="choose(one.path)">{{ one.path }} <span>{{ size(one.size) }}</span></button></li>
          } @empty {
            <li class="none">No picture on the shelf is called so.</li>
          }
        </ul>
      </div>
    } @else {
      @for (row of rows(); track row.file.id) {
        <section [class.wrong]="row.link && row.link.state !== 'here'" [attr.aria-label]="'File ' + row.file.name">
          <p class="name">
            @if (row.file.role === 'picture' && pictures().length > 1 && !fixed()) {
              <p-checkbox [binary]="true" size="small" [ngModel]="several().has(row.file.id)" (onChange)="choosePicture(row.file.id)" [ariaLabel]="'Choose ' + row.file.name" />
            }
            <strong>{{ row.file.name }}</strong> <span>{{ size(row.file.size) }}</span></p>
          @if (row.link && row.link.state !== 'here') {
            <p class="state"><b>linked, {{ row.link.state }}</b> — {{ row.link.path }} {{ row.link.words }}</p>
          } @else {
            <p class="state">{{ row.file.link ? 'linked to ' + row.file.link : row.role + ', in the master' }}</p>
          }
          @if (row.said) { <p class="use said">{{ row.said }}</p> }
          @for (use of row.uses.slice(0, 3); track use.id) {
            <p class="use">shown as <button type="button" class="link" (click)="picked.emit(use.id)">{{ use.words }}</button></p>
          }
          @if (row.uses.length > 3) { <p class="use">and {{ row.uses.length - 3 }} more</p> }
          <p class="acts">
            @if (row.link; as link) {
              @if (!fixed()) {
                @if (link.state === 'changed') {
                  <button type="button" class="link" (click)="take(row.file, link.path)">Take it as it is now</button>
                }
                @for (path of link.elsewhere; track path) {
                  <button type="button" class="link" [title]="'The very same bytes lie at ' + path" (click)="point(row.file, path)">Found at {{ path }}: link there</button>
                }
                @if (link.state === 'missing' && link.kept) {
                  <button type="button" class="link" title="As it was last seen" (click)="out(row.file, row.file.link!)">Put it back there</button>
                }
                @if (link.state !== 'here') {
                  <button type="button" class="link" (click)="search(row.file)">Choose another …</button>
                }
                @if (link.kept) {
                  <button type="button" class="link" [title]="link.state === 'here' ? '' : 'As it was last seen'" (click)="embed([row.file])">Put into the master</button>
                }
              }
            } @else if (!row.file.link && row.file.role === 'picture' && !fixed()) {
              <button type="button" class="link" title="The file goes to the shelf, and the master only says where it is" (click)="out(row.file, null)">Link instead</button>
            }
            @if (row.file.role === 'picture' && !fixed()) {
              <button type="button" class="link" (click)="describing.set([row.file.id])">Describe …</button>
            }
            @if (!row.link || row.link.kept) {
              <a class="link" [href]="'/api/masters/' + masterId() + '/originals/' + row.file.id" [title]="'Unchanged, SHA-256 ' + row.file.id">Take out</a>
            }
          </p>
          @if (describing().length && describing().at(-1) === row.file.id) {
            <twin-describe-fields [many]="described()" [note]="note()" (say)="describe($event)" (closed)="describing.set([])" />
          }
        </section>
      } @empty {
        <p class="none">Nothing that came from outside is kept here.</p>
      }
      @if (!fixed()) {
        <p class="acts all">
          <button type="button" class="link" (click)="search(null)">Link a picture on the shelf …</button>
          @if (found().length > 1) {
            <button type="button" class="link" (click)="mendAll()">Link {{ found().length }} where they were found</button>
          }
          @if (chosen().length > 1) {
            <button type="button" class="link" (click)="describing.set(chosen())">Describe {{ chosen().length }} pictures …</button>
          }
          @if (linked().length > 1) {
            <button type="button" class="link" (click)="embed(linked())">Put all into the master</button>
          }
        </p>
      }
      <p class="acts all">
        <span>Take the master along:</span>
        <a class="link" [href]="'/api/masters/' + masterId() + '/package?form=whole'" title="The newest revision, with all that it shows in one file">whole</a>
        <a class="link" [href]="'/api/masters/' + masterId() + '/package?form=light'" title="The newest revision, with its links as they are">light</a>
      </p>
    }
    @if (problem()) { <p class="problem" role="alert">{{ problem() }}</p> }
  `,
  styles: `
    :host { display: block; overflow: auto; padding: 10px 12px; background: var(--sheet); border-right: 1px solid var(--hairline); }
    h3 { margin: 0 0 6px; font-size: 13px; }
    section { padding: 8px 0; border-top: 1px solid var(--hairline-soft); }
    section.wrong { margin-left: -12px; padding-left: 9px; border-left: 3px solid var(--ink); }
    p { margin: 0; }
    .name { display: flex; gap: 8px; }
    .name strong { flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    span, .state, .use, .none { color: var(--ink-two); }
    .state, .use { font-size: 12px; overflow-wrap: anywhere; }
    .acts { display: flex; flex-wrap: wrap; gap: 2px 12px; margin-top: 4px; }
    .acts .link { text-align: left; }
    .all { padding-top: 8px; border-top: 1px solid var(--hairline-soft); }
    .problem { margin-top: 8px; padding: 6px 8px; border-left: 3px solid var(--ink); background: var(--raised); }
    input[type='search'] { width: 100%; margin: 8px 0; padding: 4px 6px; border: 1px solid var(--hairline); border-radius: 4px; background: none; color: var(--ink); font: inherit; }
    ul { list-style: none; margin: 0; padding: 0; }
    li button { display: flex; justify-content: space-between; gap: 8px; width: 100%; padding: 4px 0; border: 0; background: none; color: var(--ink); text-align: left; overflow-wrap: anywhere; cursor: pointer; }
    li button:hover { background: var(--action-soft); }
    li span { flex: none; }
  `,
})
export class FilesPane {
  private readonly api = inject(Api);
  readonly master = input.required<Master>();
  readonly masterId = input.required<string>();
  /** The folder of the master's file on the shelf. */
  readonly folder = input.required<string>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly picked = output<string>();
  /** A picture on the shelf that is to be linked and put on the board. */
  readonly add = output<string>();

  protected readonly states = signal<readonly LinkView[]>([]);
  protected readonly problem = signal('');
  protected readonly choosing = signal<{ readonly file: Resource | null; readonly files: readonly ShelfFile[] } | null>(null);
  protected readonly sought = signal('');
  protected readonly size = sizeInWords;
  protected readonly counted = counted;

  protected readonly linked = computed(() => linkedIn(this.master()));
  protected readonly rows = computed(() => {
    const master = this.master();
    const states = new Map(this.states().map((one) => [one.resource, one]));
    return master.resources.map((file): Row => ({
      file,
      role: ROLES[file.role],
      uses: usesInWords(master, file.id),
      link: file.link === undefined ? null : (states.get(file.id) ?? null),
      said: [file.said?.caption, file.said?.keywords.join(', '), file.said?.rights].filter(Boolean).join(' · '),
    }));
  });
  protected readonly pictures = computed(() => this.master().resources.filter(({ role }) => role === 'picture'));
  /** Pictures that are chosen to be described together, while they are of the master. */
  protected readonly several = signal<ReadonlySet<string>>(new Set());
  protected readonly chosen = computed(() =>
    this.pictures()
      .map(({ id }) => id)
      .filter((id) => this.several().has(id)),
  );
  protected readonly describing = signal<readonly string[]>([]);
  protected readonly described = computed(() =>
    this.pictures()
      .filter(({ id }) => this.describing().includes(id))
      .map(({ said }) => said?.keywords ?? []),
  );
  protected readonly note = computed(() =>
    this.pictures().some(({ id, link }) => link && this.describing().includes(id))
      ? 'Reaches the files beside linked pictures when it is written out, from the Desk.'
      : 'Is kept in the master.',
  );
  protected readonly found = computed(() => this.rows().filter(({ link }) => link?.elsewhere.length));
  protected readonly choices = computed(() => {
    const sought = this.sought().trim().toLowerCase();
    return (this.choosing()?.files ?? []).filter(({ path }) => path.toLowerCase().includes(sought));
  });

  /** What is to be looked for, as text: asked again only where that changes. */
  private readonly asked = computed(() =>
    JSON.stringify(this.linked().map(({ id: resource, link, size }) => ({ resource, link, size }))),
  );
  private readonly looks = new Subject<string>();

  constructor() {
    this.looks
      .pipe(
        switchMap((asked) => {
          const links = JSON.parse(asked) as { resource: string; link: string; size: number }[];
          if (!links.length) return of({ links: [] });
          return this.api.call('links', { id: this.masterId() }, { links }).pipe(
            catchError((error: Error) => {
              this.problem.set(error.message);
              return of({ links: [] });
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ links }) => this.states.set(links));
    effect(() => this.looks.next(this.asked()));
    // What happens on the shelf is told.
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe(({ kind, master }) => {
        if (kind === 'again' || (kind === 'master' && master === this.masterId())) this.looks.next(this.asked());
      });
  }

  protected choosePicture(id: string): void {
    this.several.update((some) => {
      const next = new Set(some);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected describe(what: Description): void {
    const master = this.master();
    const ids = this.describing().filter((id) => master.resources.some((one) => one.id === id));
    this.describing.set([]);
    if (ids.length) this.command.emit(describePictures(master, ids, what));
  }

  protected embed(files: readonly Resource[]): void {
    const master = this.master();
    const patches = files.flatMap(({ id }) => setLink(master, id, undefined, '').patches);
    const label = files.length === 1 ? `${files[0]!.name}: put into the master` : `${files.length} files put into the master`;
    this.command.emit({ label, patches });
  }

  protected point({ id, name }: Resource, path: string): void {
    const link = linkTo(this.folder(), path);
    this.command.emit(setLink(this.master(), id, link, `${name}: linked to ${link}`));
  }

  protected mendAll(): void {
    const master = this.master();
    const patches = this.found().flatMap(
      ({ file, link }) => setLink(master, file.id, linkTo(this.folder(), link!.elsewhere[0]!), '').patches,
    );
    this.command.emit({ label: `${this.found().length} files linked where they were found`, patches });
  }

  /** Does what the server has to do for it; what goes wrong is said. */
  private async with<T>(asked: Promise<T>, done: (answer: T) => void): Promise<void> {
    this.problem.set('');
    try {
      done(await asked);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }

  protected out({ id, name }: Resource, link: string | null): void {
    void this.with(firstValueFrom(this.api.call('putOut', { id: this.masterId() }, { resource: id, link })), (answer) => {
      if (link === null) this.command.emit(setLink(this.master(), id, answer.link, `${name}: linked to ${answer.link}`));
      else this.looks.next(this.asked());
    });
  }

  protected take({ id, name }: Resource, path: string): void {
    void this.with(firstValueFrom(this.api.call('linkPicture', { id: this.masterId() }, { path })), ({ resource }) => {
      if (!this.master().resources.some((one) => one.id === id))
        return this.problem.set(`${name} is no longer of this master; nothing was changed.`);
      this.command.emit(replaceResource(this.master(), id, resource));
    });
  }

  protected search(file: Resource | null): void {
    this.sought.set('');
    void this.with(
      firstValueFrom(this.api.call('linkable', { id: this.masterId() }, undefined, { name: file?.name ?? '' })),
      ({ files }) => this.choosing.set({ file, files }),
    );
  }

  protected choose(path: string): void {
    const file = this.choosing()?.file;
    this.choosing.set(null);
    if (file) this.take(file, path);
    else this.add.emit(path);
  }
}
