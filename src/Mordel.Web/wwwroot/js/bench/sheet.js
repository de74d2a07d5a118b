// The run sheet beside the rig: ticks itself, hints when asked, shows what the water would do otherwise.
import { button, by, make } from './make.js';
import { takeForm } from './take.js';

export class Sheet {
  constructor(desk, rig, clock) {
    Object.assign(this, { desk, rig, clock, version: -1, hinting: false, trying: false, key: '' });
  }

  look() {
    const { door } = this.desk;
    if (this.trying) {
      this.#watchTrying();
      return;
    }
    const version = door.SheetVersion();
    if (version === this.version) return;
    this.version = version;
    this.show(JSON.parse(door.Sheet()));
  }

  again() {
    this.version = -1;
    this.look();
  }

  async #say(kind, value) {
    await this.desk.said(kind, value);
    this.again();
  }

  show(view) {
    this.view = view;
    const host = by('sheet'),
      held = host.contains(document.activeElement)
        ? document.activeElement.id || document.activeElement.textContent
        : null;
    if (view.key !== this.key) {
      this.key = view.key;
      this.hinting = false;
      by('spoken').textContent = view.title ? `${view.title}. ${view.lines.map(line => line.say).join(' ')}` : '';
    }
    this.rig.mark(this.hinting && view.hint ? view.hint.parts : []);
    host.replaceChildren(...(view.title ? this.#step(view) : this.#over(view)), this.#report(view), this.#whole(view));
    if (held)
      [...host.querySelectorAll('button, input')].find(el => el.id === held || el.textContent === held)?.focus();
  }

  #step(view) {
    const parts = [
      make('p', { className: 'eyebrow', textContent: `${view.stage} · ${view.done} of ${view.all}` }),
      make('h2', { id: 'step-title', textContent: view.title }),
      make(
        'ol',
        { className: 'ticks' },
        ...view.lines.map(line =>
          make(
            'li',
            { className: line.done ? 'done' : '' },
            make('span', { className: 'tick', ariaHidden: 'true', textContent: line.done ? '✓' : '' }),
            make(
              'span',
              {},
              line.say,
              make('span', { className: 'visually-hidden', textContent: line.done ? ' Done.' : '' }),
            ),
          ),
        ),
      ),
      view.watch ? make('p', { className: 'watch' }, make('strong', { textContent: 'Watch: ' }), view.watch) : null,
      view.caution
        ? make('p', { className: 'caution' }, make('strong', { textContent: 'Caution: ' }), view.caution)
        : null,
    ];
    if (view.astray?.length)
      parts.push(
        make(
          'ul',
          { className: 'astray', ariaLabel: 'Otherwise than the sheet' },
          ...view.astray.slice(0, 4).map(line => make('li', { textContent: line })),
        ),
      );
    if (view.capture && view.turned) {
      parts.push(takeForm(this.desk, view.capture, () => this.again()));
    }
    if (view.confirm) parts.push(button('Done', () => this.#say('confirm'), 'btn btn-primary'));
    const sights = view.sights ?? [];
    if (view.turned && (view.answer || view.odd || (view.capture && sights.length))) {
      const asked = make(
        'details',
        { className: 'seen', open: view.answer || view.odd },
        make('summary', {
          textContent: view.odd
            ? 'Look again: what do you see?'
            : view.answer
              ? 'What do you see?'
              : 'Something else seen',
        }),
        ...sights
          .filter(sight => view.answer || !sight.good)
          .map(sight =>
            make(
              'button',
              {
                type: 'button',
                className: 'sight',
                onclick: () => this.#say('see', sight.id),
              },
              make('span', { className: 'seen-what', textContent: sight.seen }),
              make('span', { className: 'means', textContent: view.answer ? '' : sight.means }),
            ),
          ),
      );
      if (view.odd && !view.answer) asked.append(button('All as it should be', () => this.#say('confirm')));
      parts.push(asked);
    }
    parts.push(make('p', { className: 'why' }, make('strong', { textContent: 'Why: ' }), view.why));
    const acts = [];
    if (view.hint)
      acts.push(
        button(
          this.hinting ? `Hint: ${view.hint.say}` : 'Hint',
          () => {
            this.hinting = !this.hinting;
            this.show(this.view);
            by('spoken').textContent = this.hinting ? view.hint.say : '';
          },
          this.hinting ? 'hint-text' : 'quiet words',
          { ariaExpanded: String(this.hinting) },
        ),
      );
    // What this browser's own water alone can take back.
    if (this.desk.door.Try)
      view.otherwise?.forEach((title, i) =>
        acts.push(button(`What if? ${title}`, () => this.#try(i, title), 'quiet words')),
      );
    return [...parts.filter(Boolean), make('div', { className: 'step-acts' }, ...acts)];
  }

  #try(which, title) {
    this.desk.door.Try(which);
    this.trying = true;
    this.clock.go();
    this.told = make('p', {
      className: 'told',
      role: 'status',
      textContent: 'The bench does it for you. Watch the needle and the water…',
    });
    by('sheet').replaceChildren(
      make(
        'section',
        { className: 'trying' },
        make('p', { className: 'eyebrow', textContent: 'What if?' }),
        make('h2', { textContent: title, tabIndex: -1 }),
        this.told,
        make(
          'p',
          { className: 'why' },
          make('strong', { textContent: 'Why the sheet has it otherwise: ' }),
          this.view.why,
        ),
        button(
          'Step back to before',
          async () => {
            await this.desk.door.StepBack();
            this.desk.deeds = -1;
            this.trying = false;
            this.again();
          },
          'btn btn-primary',
        ),
      ),
    );
  }

  #watchTrying() {
    const told = this.desk.door.Tried();
    if (told && this.told.textContent !== told) this.told.textContent = told;
  }

  #over(view) {
    return [
      make('p', { className: 'eyebrow', textContent: 'All steps are behind you' }),
      make('h2', {
        className: `big-verdict ${view.verdict}`,
        textContent: { pass: 'Pass', fail: 'Fail', incomplete: 'Incomplete', 'not-testable': 'Not testable' }[
          view.verdict
        ],
      }),
      make('p', { textContent: view.reason }),
      make(
        'p',
        {},
        make('strong', { textContent: 'What was wrong with it: ' }),
        (this.desk.plan.truth ?? []).join('. ') + '.',
      ),
    ];
  }

  #report(view) {
    return make(
      'section',
      { className: 'report' },
      make('h3', { textContent: 'The report so far' }),
      make(
        'table',
        {},
        make(
          'tbody',
          {},
          ...view.report.map(item =>
            make(
              'tr',
              { className: item.result },
              make('th', { scope: 'row', textContent: item.name }),
              make('td', { className: 'num', textContent: item.value ?? '–' }),
              make('td', {
                className: 'soft',
                textContent: item.value
                  ? ({ pass: `passes ${item.margin ?? ''}`, fail: `fails ${item.margin ?? ''}` }[item.result] ?? '')
                  : '',
              }),
            ),
          ),
        ),
      ),
      view.remarks ? make('p', { className: 'soft', textContent: view.remarks }) : null,
    );
  }

  #whole(view) {
    const details = make(
      'details',
      {
        className: 'whole',
        open: this.wholeOpen ?? false,
        ontoggle: () => {
          this.wholeOpen = details.open;
        },
      },
      make('summary', { textContent: 'The whole sheet' }),
      ...view.sheet.map(stage =>
        make(
          'section',
          { className: stage.here ? 'here' : '' },
          make('h4', { textContent: stage.title }),
          make(
            'ol',
            {},
            ...stage.steps.map(step =>
              make(
                'li',
                { className: step.state },
                step.title,
                step.detail ? make('em', { textContent: ` ${step.detail}` }) : '',
              ),
            ),
          ),
        ),
      ),
    );
    return details;
  }
}
