import fc from 'fast-check';
import { readForms, valuesApart, type FormField } from './index.ts';

const only = (html: string): FormField[] => {
  const forms = readForms(html);
  expect(forms).toHaveLength(1);
  return forms[0]!.fields;
};
const labels = (html: string): string[] => only(html).map(({ label }) => label);

describe('forms out of HTML', () => {
  it('finds a label wherever a person sees one', () => {
    expect(
      labels(`<form>
        <label for="a">By for *</label><input id="a" name="a">
        <label>Wrapping <input name="b"></label>
        <span id="s">By reference</span><input name="c" aria-labelledby="s">
        <input name="d" aria-label="Spoken:">
        <table><tr><td>In the cell before</td><td><input name="e"></td></tr></table>
        <p>Before it <input name="f"></p>
        <div><b>One up</b><div><input name="g"></div></div>
        <input name="h" placeholder="Only a hint">
        <input name="i" title="A title">
        <input name="j_only">
      </form>`),
    ).toEqual([
      'By for',
      'Wrapping',
      'By reference',
      'Spoken',
      'In the cell before',
      'Before it',
      'One up',
      'Only a hint',
      'A title',
      'j_only',
    ]);
  });
  it('takes a heading of a column as label where rows repeat', () => {
    const fields = only(
      '<form><table><tr><th>Name</th><th>Age</th></tr><tr><td><input name="p[0][name]"></td><td><input name="p[0][age]" type="number"></td></tr></table></form>',
    );
    expect(fields.map(({ label, group, type }) => [label, group, type])).toEqual([
      ['Name', 'p', 'text'],
      ['Age', 'p', 'number'],
    ]);
  });
  it('makes one field of radio buttons and of checkboxes of one name', () => {
    const [radio, boxes, single] = only(`<form>
      <fieldset><legend>Colour:</legend><label><input type="radio" name="colour" value="r" required> Red</label><label><input type="radio" name="colour" value="g"> Green</label></fieldset>
      <fieldset><legend>Topics</legend><input type="checkbox" name="topics[]" value="h" id="h"><label for="h">Honey</label><input type="checkbox" name="topics[]" value="w" id="w"><label for="w">Wax</label></fieldset>
      <label><input type="checkbox" name="ok" value="1"> I agree</label></form>`);
    expect(radio).toMatchObject({
      label: 'Colour',
      type: 'option',
      required: true,
      options: [
        { value: 'r', label: 'Red' },
        { value: 'g', label: 'Green' },
      ],
    });
    expect(boxes).toMatchObject({
      name: 'topics[]',
      label: 'Topics',
      type: 'options',
      multiple: true,
      options: [
        { value: 'h', label: 'Honey' },
        { value: 'w', label: 'Wax' },
      ],
    });
    expect(single).toMatchObject({ label: 'I agree', type: 'yes/no' });
  });
  it('reads options with their groups and leaves prompts out', () => {
    const [field] = only(
      '<form><select name="s"><option value="">Choose</option><optgroup label="Stone"><option value="c">Cherry</option></optgroup><option>Apple</option></select></form>',
    );
    expect(field!.options).toEqual([
      { value: 'c', label: 'Cherry', group: 'Stone' },
      { value: 'Apple', label: 'Apple' },
    ]);
  });
  it('takes limits, kinds, tokens and hidden values', () => {
    const [mail, number, hidden, tel] = only(
      '<form><input name="m" type="email" autocomplete="email" maxlength="80" required><input name="n" type="number" min="1" max="9"><input type="hidden" name="utm" value="x"><input name="t" inputmode="tel" pattern="[0-9]+"></form>',
    );
    expect(mail).toMatchObject({ type: 'email', autocomplete: 'email', maxLength: 80, required: true });
    expect(number).toMatchObject({ type: 'number', minimum: '1', maximum: '9' });
    expect(hidden).toMatchObject({ hidden: true, initial: 'x' });
    expect(tel).toMatchObject({ type: 'phone', pattern: '[0-9]+' });
  });
  it('finds fields that belong to a form elsewhere on the page, and several forms', () => {
    const forms = readForms(
      '<form id="one" method="POST" action="/go"><input name="a"></form><form name="two"></form><input name="b" form="one"><input name="loose">',
    );
    expect(
      forms.map(({ name, method, action, fields }) => [name, method, action, fields.map((each) => each.name)]),
    ).toEqual([
      ['one', 'post', '/go', ['a', 'b']],
      ['two', 'get', '', []],
      ['', 'get', '', ['loose']],
    ]);
  });
  it('never takes in passwords and card data, and says so', () => {
    const [form] = readForms(
      '<form><label>Password<input type="password" name="pw"></label><input name="cardnumber"><input autocomplete="cc-csc" name="x"><input type="text" size="3"><input name="ok"></form>',
    );
    expect(form!.fields.map(({ name }) => name)).toEqual(['ok']);
    expect(form!.left.map(({ reason }) => reason)).toEqual([
      'a password is never taken in',
      'card data is never taken in',
      'card data is never taken in',
      'it has no name, no id and no label, so nothing tells what it is for',
    ]);
    const [typed] = readForms(
      '<form><input name="ccnumber"><label>Password<input name="p1"></label><label>Security code (CVC)<input name="s"></label><label>Passport<input name="pass"></label></form>',
    );
    expect(typed!.fields.map(({ label }) => label)).toEqual(['Passport']);
  });
  it('takes in what has no name, under its id, else its label, and says that only a script sends it', () => {
    const [form] = readForms(`<form>
      <label>Your name<input></label>
      <label>Town</label><input>
      <input id="mail" type="email" placeholder="E-mail">
      <input id=":r7:" placeholder="Straße">
      <input id="mat-input-4" aria-label="Post code">
      <label>Town<input></label>
      <select id="country"><option>PL</option></select>
      <input id="hidden" type="hidden"><input type="file" id="cv"><button>Send</button>
      <input name="ref" value="1"></form>`);
    expect(form!.fields.map(({ name, byScript }) => `${name}${byScript ? ' by script' : ''}`)).toEqual([
      'your-name by script',
      'town by script',
      'mail by script',
      'strasse by script',
      'post-code by script',
      'town-2 by script',
      'country by script',
      'ref',
    ]);
    expect(form!.left.map(({ reason }) => reason)).toEqual([
      'it has no name, so nothing sends it',
      'it has no name, so nothing sends its file',
    ]);
  });
  it('gives a nameless control no name that another has', () => {
    const names = only('<form><input name="town"><label>Town<input></label><input id="town"></form>').map(
      ({ name }) => name,
    );
    expect(new Set(names).size).toBe(3);
    expect(names[0]).toBe('town');
  });
  it('keeps inputs of one name apart where their labels differ', () => {
    const fields = only(
      '<form><label>Phone<input name="tel"></label><label>Phone at work<input name="tel"></label><input name="tag"><input name="tag"></form>',
    );
    expect(fields.map(({ name, label, place, multiple }) => ({ name, label, place, multiple }))).toEqual([
      { name: 'tel', label: 'Phone', place: 1, multiple: undefined },
      { name: 'tel#2', label: 'Phone at work', place: 2, multiple: undefined },
      { name: 'tag', label: 'tag', place: undefined, multiple: true },
    ]);
    expect({ ...valuesApart(fields, { tel: ['1', '2'], tag: ['a', 'b'] }) }).toEqual({
      tel: '1',
      'tel#2': '2',
      tag: ['a', 'b'],
    });
    expect({ ...valuesApart(fields, { tel: ['1', '2', '3'] }) }).toEqual({ tel: ['1', '2', '3'] });
    expect({ ...valuesApart(fields, { tel: '1' }) }).toEqual({ tel: '1' });
  });
  it('reads a label where a person does, on pages that tie nothing', () => {
    expect(
      labels(`<form>
        <h2>Sign up</h2>
        <div class="row"><i class="material-icons">face</i><input name="a" placeholder="First name"></div>
        <div><label>Full name</label><div><input name="b" placeholder="Given"></div><div><input name="c" placeholder="Family"></div></div>
        <p><input type="checkbox" name="d"> I agree</p>
        <nav><ul><li>Home</li><li>News</li></ul></nav><input name="e" placeholder="Search">
        <label for="f">Address <span class="field-hint">street and number</span></label><input id="f" name="f">
        <script>var label = 'Nothing';</script><input name="g">
        <div><input name="h"> Zip <input name="i"> City</div>
        <p>Tell us</p><input type="hidden" name="j">
      </form>`),
    ).toEqual(['First name', 'Given', 'Family', 'I agree', 'Search', 'Address', 'g', 'Zip', 'City', 'j']);
  });
  it('says under which heading a field stands', () => {
    const sections = only(
      '<h1>Contact</h1><form><input name="a"><fieldset><legend>Delivery</legend><label>Town<input name="b"></label></fieldset><h3>Bill</h3><label>Town<input name="c"></label></form>',
    ).map(({ section }) => section);
    expect(sections).toEqual(['Contact', 'Delivery', 'Bill']);
  });
  it('treats hostile names as names', () => {
    expect(
      only(
        '<form><input name="constructor"><input name="__proto__"><input name="😀"><input name="a&quot;><script>x</script>"></form>',
      ).map(({ name }) => name),
    ).toEqual(['constructor', '__proto__', '😀', 'a"><script>x</script>']);
  });
  it('never throws, whatever it is given', () => {
    const piece = fc.constantFrom(
      '<form>',
      '</form>',
      '<input name=a>',
      '<label>',
      '</label>',
      '<table><tr><td>',
      '<select name=s>',
      '<option>',
      '<fieldset>',
      '<template>',
      '<!--',
      '-->',
      'text',
      '<svg>',
      '</p>',
    );
    fc.assert(fc.property(fc.array(piece), (pieces) => Array.isArray(readForms(pieces.join('')))));
    expect(readForms(`${'<div>'.repeat(20_000)}<form><input name="deep"></form>`)[0]!.fields).toHaveLength(1);
  });
});

describe('pages as they come', () => {
  const [form] = readForms(
    `<form><select name="big">${Array.from({ length: 2000 }, (_, at) => `<option value="${at}">Option ${at}</option>`).join('')}</select>
    <input name="constructor" placeholder="C"><input name="__proto__"><input name="🐝"><input name="${'n'.repeat(500)}">
    <label>\u202eevil\u202c label <input name="rtl"></label><input name="user.address.city"><input name="items[0][qty]"><input name="tags[]"></form>`,
  );
  const named = (name: string) => form!.fields.find((field) => field.name === name);
  it('keep 2,000 options, hostile names and nested ones, and strip what turns texts round', () => {
    expect(named('big')!.options).toHaveLength(2000);
    for (const name of ['constructor', '__proto__', '🐝', 'n'.repeat(500), 'user.address.city'])
      expect(named(name)).toBeDefined();
    expect(named('rtl')!.label).toBe('evil label');
    expect(named('items[0][qty]')!.group).toBe('items');
    expect(named('tags[]')!.multiple).toBe(true);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });
  it('may have 5 MB and be broken throughout', () => {
    const page = `<div><table><form name="a">${'<div><p>text<td>'.repeat(300_000)}<input name="x"`;
    expect(readForms(page).length).toBeLessThanOrEqual(1);
    const [whole] = readForms(`${'<div>'.repeat(100_000)}<form name="deep"><input name="x"></form>`);
    expect(whole).toMatchObject({ name: 'deep', fields: [{ name: 'x' }] });
  });
  it('are called by their placeholder where only a sentence stands before', () => {
    const [swarm] = readForms(
      '<form><p>Call us, or send us this.</p><p><input name="where" placeholder="Where?"></p></form>',
    );
    expect(swarm!.fields[0]!.label).toBe('Where?');
    const [short] = readForms('<form><div>Web</div><div><input name="w" placeholder="www.…"></div></form>');
    expect(short!.fields[0]!.label).toBe('Web');
  });
});
