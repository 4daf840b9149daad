/** What the shop sells. Prices in euros. */
export interface Article {
  sku: string;
  name: string;
  price: number;
}

export const GOODS: Article[] = [
  { sku: 'SMK-01', name: 'Smoker, stainless', price: 34.9 },
  { sku: 'FRM-10', name: 'Frames, box of ten', price: 18.5 },
  { sku: 'VEI-03', name: 'Veil with hat', price: 22 },
  { sku: 'HNY-500', name: 'Meadow honey, 500 g', price: 7.2 },
  { sku: 'JAR-48', name: 'Jars, 48 pieces', price: 29.75 },
];
