import { escapeHtml } from '../html.ts';

/** A form's page on the co-operative's website, written as such pages are written. */
export interface SitePage {
  key: string;
  title: string;
  /** The form's inner HTML. */
  form: string;
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
];

export function sitePage({ title, form, key }: SitePage, target: string): string {
  return frame(title, `<form id="${key}" method="post" action="${escapeHtml(target)}">${form}\n</form>`);
}

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
