import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { many } from './many.ts';

/** A server that means no good. */
export class EvilServer {
  private readonly server: Server;
  /** How often the metadata was read that is another each time. */
  private readings = 0;
  address = '';

  constructor() {
    this.server = createServer((request, response) => {
      const kind = request.url?.split('/')[1];
      response.on('error', () => undefined);
      if (kind === 'redirect') return void response.writeHead(302, { Location: '/redirect/' }).end();
      if (kind === 'garbage') return void response.end(Buffer.alloc(1_000_000, 7));
      if (kind === 'list') {
        response.setHeader('Content-Type', 'application/json');
        const records = many(60_000, (at) => `{"id":${at},"name":"${'n'.repeat(200)}"},`);
        return void response.end(`{"items":[${records}{"id":0}],"next":"again"}`);
      }
      if (kind === 'round') {
        response.setHeader('Content-Type', 'application/json');
        return void response.end('{"items":[{"id":1,"name":"a"},{"id":2,"name":"b"}],"next":"again"}');
      }
      response.setHeader('Content-Type', kind === 'page' || kind === 'nested' ? 'text/html' : 'application/xml');
      if (kind === 'drip') {
        const timer = setInterval(() => response.write(' '), 500);
        return void response.once('close', () => clearInterval(timer));
      }
      if (kind === 'endless') {
        const more = (): void => {
          while (!response.destroyed)
            if (!response.write(Buffer.alloc(1 << 20, 'a'))) return void response.once('drain', more);
        };
        return more();
      }
      if (kind === 'wide')
        return void response.end(metadata(many(100_000, (at) => `<Property Name="p${at}" Type="Edm.String"/>`)));
      if (kind === 'otherwise') {
        const count = Math.min(60_000, Number(request.url?.split('/')[2]) || 0);
        if (!request.url?.includes('$metadata')) return void response.writeHead(404).end();
        this.readings += 1;
        return void response.end(
          metadata(KEY + many(count, (at) => labelled(`r${this.readings}f${at}`, `Called ${at}`))),
        );
      }
      if (kind === 'entities')
        return void response.end(
          `<!DOCTYPE x [<!ENTITY a "ha">${many(20, (at) => `<!ENTITY ${'b'.repeat(at + 2)} "${`&${'b'.repeat(at + 1)};`.repeat(10)}">`)}]>${metadata('')}`,
        );
      return void response.end(`${'<div><p>'.repeat(200_000)}`);
    });
  }

  async listen(): Promise<void> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    this.address = `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  close(): void {
    this.server.closeAllConnections();
    this.server.close();
  }
}

const KEY = '<Property Name="p0" Type="Edm.String" Nullable="false"/>';
const labelled = (name: string, label: string): string =>
  `<Property Name="${name}" Type="Edm.String"><Annotation Term="Org.OData.Core.V1.Description" String="${label}"/></Property>`;

const metadata = (properties: string): string =>
  `<edmx:Edmx Version="4.0" xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx"><edmx:DataServices><Schema Namespace="N" xmlns="http://docs.oasis-open.org/odata/ns/edm"><EntityType Name="T"><Key><PropertyRef Name="p0"/></Key>${properties}</EntityType><EntityContainer Name="C"><EntitySet Name="S" EntityType="N.T"/></EntityContainer></Schema></edmx:DataServices></edmx:Edmx>`;
