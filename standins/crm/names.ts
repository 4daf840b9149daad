/** Made-up building blocks for the river valley's people and orchards. */
const words = (text: string): string[] => text.trim().split(/\s+/);

export const FIRST = {
  de: words(
    'Katharina Jürgen Ulrike Matthias Brigitte Heiko Silke Torsten Anneliese Björn Friederike Günther Käthe Lennart Mareike Wiebke Sören Gesine Detlef Imke Rüdiger Ilse Hinrich Telse',
  ),
  pl: words(
    'Agnieszka Paweł Małgorzata Krzysztof Bożena Łukasz Zofia Tadeusz Grażyna Wojciech Halina Jerzy Danuta Stanisław Jadwiga Zbigniew Ewelina Mirosław Iwona Bogdan',
  ),
  en: words(
    'Eleanor Hugh Winifred Alistair Maud Rupert Beatrix Clement Harriet Ivor Cordelia Edmund Phoebe Gareth Rosalind Barnaby Nell Tobias Sibyl Oluwaseun Amara Priya Idris',
  ),
};
export const LAST = {
  de: words(
    'Brandt Mehrens Osterwisch Sommerfeld Lindemann Wulff Harms Petersen Möller Schütt Köster Voß Ehlers Tiedemann Brüggemann Rathjen Meinke Stührenberg Dierks Feddersen Holst Quast Jarck',
  ),
  pl: words(
    'Brzeziński Nowak Zieliński Wiśniewska Kowalczyk Szymański Wójcik Dąbrowska Lewandowski Jabłoński Pszczółka Gołębiowski Miodowicz Krawczyk Sadowska Łąkowski Żuraw',
  ),
  en: words(
    'Radley Lindley Hollow Marsh Brook Thornbury Ashdown Penhallow Whitlock Cresswell Orchardson Fairweather Goodspeed Lindqvist Adler Sedgwick Wetherby Underhill Applegarth Adeyemi Okonjo',
  ),
};
export const TOWNS: [city: string, postcode: string, country: string][] = [
  ['Hollowbrook', '21614', 'DE'],
  ['Kirschfelde', '21635', 'DE'],
  ['Osterwisch', '21641', 'DE'],
  ['Deichhausen', '21615', 'DE'],
  ['Sadowo', '72-320', 'PL'],
  ['Jabłonna Dolna', '72-315', 'PL'],
  ['Marsh Lane', 'CB21 4QX', 'GB'],
  ['Brook End', 'PE28 9ZZ', 'GB'],
];
export const STREETS = words(
  'Deichweg Obstallee Kirchstraße Birnenweg Lindenhof Apfelgasse Mühlendamm Bienenpfad Wiesengrund',
);
export const ORCHARD = [
  'Obsthof {}',
  'Biohof {}',
  '{} Orchards',
  'Kirschgarten {}',
  'Sad {}',
  'Gut {}',
  '{} & Daughters',
  '{} Cider',
  'Obstbau {}',
  'Altes Land {}',
];
export const MAIL_HOSTS = [
  'biene.example',
  'post.example',
  'wabe.example',
  'valleymail.example',
  'ul.example',
  'cloverhollow.example',
];

/** A name as it stands in an address: no accents, no spaces. */
export function plainName(name: string): string {
  return name
    .replace(/ä/g, 'ae')
    .replace(/ö/g, 'oe')
    .replace(/ü/g, 'ue')
    .replace(/ß/g, 'ss')
    .replace(/[łŁ]/g, 'l')
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]/g, '');
}
