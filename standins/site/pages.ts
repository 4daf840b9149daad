import { escapeHtml } from '../html.ts';

/** A form's page on the co-operative's website, written as such pages are written. */
export interface SitePage {
  key: string;
  title: string;
  /** The form's inner HTML. */
  form: string;
  /** It may carry files. */
  multipart?: boolean;
  /** Other forms that stand on the page before it. */
  before?: string;
}

export const PAGES: SitePage[] = [
  {
    key: 'pollination-enquiry',
    title: 'Bees for your blossom',
    form: `
  <fieldset><legend>Your orchard</legend>
    <p><label for="orchard">Orchard name</label> <input id="orchard" name="orchard" maxlength="120"></p>
    <p><label for="web">Web address</label> <input id="web" name="web" placeholder="www.…"></p>
    <p>Street <input name="street" autocomplete="address-line1"> No. <input name="house_no" size="5"></p>
    <p><label>Postcode <input name="plz" autocomplete="postal-code"></label> <label>Town <input name="town"></label></p>
  </fieldset>
  <fieldset><legend>Who should we speak to?</legend>
    <p><label for="fn">First name</label> <input id="fn" name="contact_first" autocomplete="given-name" required></p>
    <p><label for="ln">Last name *</label> <input id="ln" name="contact_last" autocomplete="family-name" required></p>
    <p><label for="em">E-mail *</label> <input id="em" name="contact_email" type="email" required></p>
    <p><label for="ph">Telephone</label> <input id="ph" name="contact_phone" type="tel"></p>
    <p><label for="sp">We write to you in</label> <select id="sp" name="lang"><option value="">please choose</option><option value="english">English</option><option value="german">Deutsch</option><option value="polish">Polski</option></select></p>
  </fieldset>
  <fieldset><legend>Blossom and hives</legend>
    <p><label for="ha">Hectares of fruit</label> <input id="ha" name="hectares" inputmode="decimal"></p>
    <p><label for="crops">Crops</label> <select id="crops" name="crops" multiple><option>Apple</option><option>Pear</option><option>Cherry</option><option>Plum</option><option>Quince</option><option>Other</option></select></p>
    <p><label for="bloom">Blossom starts</label> <input id="bloom" name="bloom" type="datetime-local"></p>
    <p><label for="hives">Hives wanted</label> <input id="hives" name="hives" type="number" min="1" max="400"></p>
    <p><label for="msg">Anything we should know?</label><br><textarea id="msg" name="message" rows="4" cols="50"></textarea></p>
  </fieldset>
  <p><label><input type="checkbox" name="letters" value="yes"> Send me the letters of the co-operative</label></p>
  <input type="hidden" name="utm_source" value="">
  <p><button type="submit">Ask for bees</button></p>`,
  },
  {
    key: 'season-enquiry',
    title: 'Bees for the season',
    form: `
  <fieldset><legend>The orchard</legend>
    <p><label for="s-orchard">Name of the orchard</label> <input id="s-orchard" name="orchard" required maxlength="120"></p>
    <p><label>Website <input name="web" placeholder="www.…"></label></p>
    <p>Street <input name="street" autocomplete="address-line1"> No. <input name="house_no" size="5"></p>
    <p><label>Postcode <input name="plz" autocomplete="postal-code"></label> <label>Town <input name="town"></label></p>
  </fieldset>
  <fieldset><legend>Whom may we call? The first is our main contact.</legend>
  <table><tr><th>First name</th><th>Last name</th><th>E-mail</th><th>Telephone</th></tr>
    ${[0, 1, 2]
      .map(
        (row) =>
          `<tr>${['first', 'last', 'email', 'phone'].map((name) => `<td><input name="contacts[${row}][${name}]"${name === 'email' ? ' type="email"' : ''}></td>`).join('')}</tr>`,
      )
      .join('\n    ')}
  </table></fieldset>
  <fieldset><legend>Blossom</legend>
    <p><label>Hectares of fruit <input name="hectares" inputmode="decimal"></label></p>
    <p><label for="s-crops">Crops</label> <select id="s-crops" name="crops" multiple><option>Apple</option><option>Pear</option><option>Cherry</option><option>Plum</option><option>Quince</option></select></p>
    <p><label>Blossom starts <input name="bloom" type="date"></label></p>
    <p><label>Hives wanted <input name="hives" type="number" min="1" max="400"></label></p>
    <p><label>What else? <textarea name="message" rows="3" cols="50"></textarea></label></p>
  </fieldset>
  <input type="hidden" name="utm_source" value="">
  <p><button>Ask for the season</button></p>`,
  },
  {
    key: 'letters-sign-up',
    title: 'Letters from the hollow',
    form: `
  <table>
    <tr><td>Vorname / First name</td><td><input name="vorname"></td></tr>
    <tr><td>Nachname / Last name</td><td><input name="nachname"></td></tr>
    <tr><td>E-Mail</td><td><input name="mail" type="email" required></td></tr>
    <tr><td>Themen / Topics</td><td>
      <label><input type="checkbox" name="thema[]" value="Honig"> Honig / honey</label>
      <label><input type="checkbox" name="thema[]" value="Königinnen"> Königinnen / queens</label>
      <label><input type="checkbox" name="thema[]" value="Kurse"> Kurse / courses</label></td></tr>
  </table>
  <p><label><input type="checkbox" name="ok" value="1" required> Ich bin einverstanden / I agree</label></p>
  <input type="hidden" name="utm_source"><input type="hidden" name="utm_campaign">
  <p><button>Anmelden / Sign up</button></p>`,
  },
  {
    key: 'beginners-course',
    title: 'Learn to keep bees',
    form: `
  <h2>Your booking</h2>
  <p><label for="kurs">Course</label> <select id="kurs" name="course" required><option value="">—</option><optgroup label="Beginners"><option>Beginners’ weekend</option><option>Beginners’ evening class</option></optgroup><optgroup label="For those who keep bees already"><option>Queen breeding</option><option>Honey and hygiene</option></optgroup></select></p>
  <p><label>Who books? <input name="booker.name" autocomplete="name" required></label></p>
  <p><label>E-mail <input name="booker.email" type="email" autocomplete="email" required></label></p>
  <p><label>Telephone <input name="booker.phone" type="tel"></label></p>
  <p><label>Club, if you come for one <input name="club"></label></p>
  <table><tr><th>First name</th><th>Last name</th><th>Born</th></tr>
    ${[0, 1, 2]
      .map(
        (row) =>
          `<tr><td><input name="attendees[${row}][first]"></td><td><input name="attendees[${row}][last]"></td><td><input name="attendees[${row}][born]" placeholder="tt.mm.jjjj"></td></tr>`,
      )
      .join('\n    ')}
  </table>
  <p>How many come? <input name="heads" type="number" min="1" max="12" value="1"></p>
  <fieldset><legend>Lunch</legend>
    <label><input type="radio" name="meal" value="everything" checked> Eats everything</label>
    <label><input type="radio" name="meal" value="veggie"> Vegetarian</label>
    <label><input type="radio" name="meal" value="vegan"> Vegan</label></fieldset>
  <p><label for="rem">Remarks</label><br><textarea id="rem" name="remarks" rows="3" cols="50" maxlength="900"></textarea></p>
  <p><button name="how" value="book">Book</button> <button name="how" value="ask">Only ask</button></p>`,
  },
  {
    key: 'swarm-report',
    title: 'A swarm! What now?',
    form: `
  <p>Call us, or send us this and stay where you are.</p>
  <p><input name="where" placeholder="Where is it hanging?" required></p>
  <p><input name="height" placeholder="How high, in metres?" inputmode="decimal"></p>
  <p><label>When did you see it? <input name="seen" type="datetime-local"></label></p>
  <p><input name="reporter" placeholder="Your name"></p>
  <p><input name="reporter_tel" type="tel" placeholder="Your telephone" required></p>
  <p><label>A picture <input type="file" name="photo" accept="image/*"></label></p>
  <p><label>Anything else<br><textarea name="notes" rows="3" cols="50"></textarea></label></p>
  <input name="website" tabindex="-1" autocomplete="off" style="position:absolute;left:-99em" aria-hidden="true">
  <p><button>Send</button></p>`,
    multipart: true,
  },
  {
    key: 'write-to-us',
    title: 'Write to us',
    before: `
<form id="suche" method="get" action="/site/"><input type="search" name="q" placeholder="Search this site"> <button>Go</button></form>
<form name="login" method="post" action="/site/"><label>Login <input name="user"></label> <label>Password <input name="pw" type="password"></label> <button>Sign in</button></form>`,
    form: `
  <dl>
    <dt>Anrede</dt><dd><select name="anrede"><option value="0">bitte wählen</option><option value="1">Frau</option><option value="2">Herr</option></select></dd>
    <dt>Vor- und Nachname</dt><dd><input name="name" required></dd>
    <dt>Mailadresse</dt><dd><input name="e_mail" required></dd>
    <dt>Straße, Hausnummer</dt><dd><input name="strasse"></dd>
    <dt>PLZ / Ort</dt><dd><input name="plz" size="6"> <input name="ort" aria-label="Ort"></dd>
    <dt>Land</dt><dd><input name="land" value="Deutschland"></dd>
    <dt>Betreff</dt><dd><input name="betreff" required></dd>
    <dt>Ihre Nachricht</dt><dd><textarea name="text" rows="5" cols="50" required></textarea></dd>
  </dl>
  <p><label><input type="checkbox" name="dsgvo" value="ja" required> Ich habe die Datenschutzhinweise gelesen.</label></p>
  <input type="hidden" name="referrer"><input type="hidden" name="page">
  <p><button>Absenden</button></p>`,
  },
];

/** How a page hands its submissions over: by posting to the target, or by the script that copies them there. */
export interface Handover {
  target: string;
  /** The page posts to its own site, and this script sends the copy. */
  attach?: { script: string; intake: string };
}

export function sitePage({ title, form, key, multipart, before = '' }: SitePage, { target, attach }: Handover): string {
  const action = attach ? `/site/${key}/thanks` : target;
  const encoding = multipart ? ' enctype="multipart/form-data"' : '';
  const script = attach
    ? `\n<script src="${escapeHtml(attach.script)}" data-intake="${escapeHtml(attach.intake)}" data-form="#${key}" defer></script>`
    : '';
  return frame(
    title,
    `${before}<form id="${key}" method="post" action="${escapeHtml(action)}"${encoding}>${form}\n</form>${script}`,
  );
}

export const thanksPage = (title: string): string => frame(title, '<p>Danke! Thank you! Dziękujemy!</p>');

/** @param zusammen where the form's pages are @param form the intake's key */
export const embeddingPage = (zusammen: string, form: string): string =>
  frame(
    'At the co-operative',
    `<p>Fill it in right here.</p>
<script src="${escapeHtml(zusammen)}/embed.js" data-form="${escapeHtml(form)}" data-title="Form" async></script>
<script>addEventListener('formsent', () => document.body.append('The page knows that it was sent.'));</script>`,
  );

export function sitePages(targets: Map<string, string>): string {
  const rows = PAGES.map(
    ({ key, title }) =>
      `<tr><td><a href="/site/${key}">${escapeHtml(title)}</a></td><td><form method="post" action="/site/targets"><input type="hidden" name="page" value="${key}"><label>Sends to <input name="target" size="60" value="${escapeHtml(targets.get(key) ?? '')}"></label> <button>Set</button></form></td></tr>`,
  );
  return frame(
    'Clover Hollow Beekeepers’ Co-operative',
    `<p>Bees for orchards, courses for beginners, honey for everybody.</p><h2>For the webmaster</h2><table>${rows.join('')}</table>`,
  );
}

function frame(title: string, body: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)}</title>
<style>body{font:17px/1.6 Georgia,serif;max-width:46rem;margin:2rem auto;padding:0 1rem;background:#fffdf5;color:#3a3324}fieldset{border:1px solid #d8cfae;margin:1rem 0}input,select,textarea,button{font:inherit}</style>
</head><body><p><a href="/site/">Clover Hollow</a></p><h1>${escapeHtml(title)}</h1>
${body}
</body></html>`;
}
