// An exam's report: the learner writes down what was read and found, gives the verdict, hands in. Nothing here helps.
import { button, by, clock, make } from './make.js';

export class Exam {
  constructor(desk, { minutes, handIn }) {
    Object.assign(this, { desk, minutes, handIn, written: {}, found: new Set(), verdict: null });
    this.#show();
  }

  // A recording that was taken up again has its answers in it.
  recall(deeds) {
    for (const deed of deeds) {
      if (deed.write)
        this.written[deed.write] =
          typeof deed.value === 'object'
            ? deed.value.value
            : deed.value === true
              ? 'yes'
              : deed.value === false
                ? 'no'
                : deed.value;
      if (deed.find) this.found[deed.stands ? 'add' : 'delete'](deed.find);
      if (deed.verdict) this.verdict = deed.verdict;
    }
    this.#show();
  }

  #wrong(text) {
    by('problem').textContent = text;
    by('problem').hidden = !text;
    return !text;
  }

  #show() {
    const { door, plan } = this.desk;
    this.left = make('p', { className: 'exam-left num', role: 'timer', hidden: !this.minutes });
    const number = item => {
      const field = make('input', {
        id: `w-${item.id}`,
        className: 'form-control num',
        inputMode: 'decimal',
        autocomplete: 'off',
        maxLength: 7,
        ariaLabel: `${item.name}, ${plan.unit}`,
        onkeydown: event => {
          if (event.key === 'Enter') {
            event.preventDefault();
            write();
          }
        },
      });
      const stands = make('output', {
        className: 'num',
        textContent: this.written[item.id] ? `${this.written[item.id]} ${plan.unit}` : '',
      });
      const write = async () => {
        const text = field.value.trim();
        if (!text || !this.#wrong(await door.Write(item.id, text))) return;
        this.written[item.id] = text;
        stands.textContent = `${text} ${plan.unit}`;
        field.value = '';
      };
      return make(
        'li',
        {},
        make('label', { htmlFor: field.id, textContent: item.name }),
        stands,
        make(
          'div',
          { className: 'take-row' },
          field,
          make('span', { className: 'unit', textContent: plan.unit }),
          button('Write down', write, 'btn btn-quiet', { ariaLabel: `Write down ${item.name}` }),
        ),
      );
    };
    const choice = (item, words) =>
      make(
        'li',
        {},
        make(
          'fieldset',
          {},
          make('legend', { textContent: item.name }),
          make(
            'div',
            { className: 'either' },
            ...words.map(word =>
              make(
                'label',
                {},
                make('input', {
                  type: 'radio',
                  name: `w-${item.id}`,
                  value: word,
                  checked: this.written[item.id] === word,
                  onchange: async () => {
                    if (this.#wrong(await door.Write(item.id, word))) this.written[item.id] = word;
                  },
                }),
                ` ${word}`,
              ),
            ),
          ),
        ),
      );
    by('sheet').replaceChildren(
      make('p', { className: 'eyebrow', textContent: 'Examination report' }),
      this.left,
      make('h2', { textContent: 'Read and write down' }),
      make(
        'ol',
        { className: 'wanted' },
        ...plan.wanted.map(item =>
          item.kind === 'number'
            ? number(item)
            : choice(item, item.kind === 'tight' ? ['tight', 'leaks'] : ['yes', 'no']),
        ),
      ),
      make(
        'fieldset',
        { className: 'findings' },
        make('legend', { textContent: 'Found' }),
        ...plan.findings.map(finding =>
          make(
            'label',
            {},
            make('input', {
              type: 'checkbox',
              checked: this.found.has(finding.id),
              onchange: event => {
                door.Find(finding.id, event.target.checked);
                this.found[event.target.checked ? 'add' : 'delete'](finding.id);
              },
            }),
            finding.words,
          ),
        ),
      ),
      make(
        'fieldset',
        { className: 'findings' },
        make('legend', { textContent: 'Verdict' }),
        make(
          'div',
          { className: 'either' },
          ...[
            ['pass', 'Pass'],
            ['fail', 'Fail'],
            ['not-testable', 'Not testable'],
          ].map(([id, words]) =>
            make(
              'label',
              {},
              make('input', {
                type: 'radio',
                name: 'verdict',
                value: id,
                checked: this.verdict === id,
                onchange: () => {
                  door.Conclude(id);
                  this.verdict = id;
                },
              }),
              ` ${words}`,
            ),
          ),
        ),
      ),
      make('p', { className: 'soft', textContent: 'Hand in when the rig is left as found and the kit is drained.' }),
      button('Hand in', () => by('hand-in').showModal(), 'btn btn-primary btn-go'),
    );
    by('hand-in-yes').onclick = () => {
      by('hand-in').close();
      this.handIn();
    };
  }

  look() {
    if (!this.minutes || this.over) return;
    const left = Math.max(0, this.minutes * 60 - this.desk.seconds),
      text = `${clock(left)} left`;
    if (this.left.textContent !== text) this.left.textContent = text;
    this.left.classList.toggle('short', left < 60);
    if (left === 0) {
      this.over = true;
      this.handIn();
    }
  }
}
