/** Title, caption, creator, rights and keywords as an XMP packet (ISO 16684-1) in the terms of the IPTC Core and Extension. */
import { fragment } from 'xmlbuilder2';

export interface Rights {
  title: string;
  caption: string;
  creator: string;
  copyright: string;
  keywords: readonly string[];
  /** Term of the IPTC's digital source types. */
  sourceType?: string | null;
}

/** XML has no place for control characters. */
const plain = (text: string): string => text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');

const inLanguage = (text: string): object => ({
  'rdf:Alt': { 'rdf:li': { '@xml:lang': 'x-default', '#': plain(text) } }
});
const listed = (kind: 'Seq' | 'Bag', texts: readonly string[]): object => ({
  [`rdf:${kind}`]: { 'rdf:li': texts.map(plain) }
});

export function xmpPacket({
  title,
  caption,
  creator,
  copyright,
  keywords,
  sourceType
}: Rights): string | null {
  const told = {
    ...(title && { 'dc:title': inLanguage(title) }),
    ...(caption && { 'dc:description': inLanguage(caption) }),
    ...(creator && { 'dc:creator': listed('Seq', [creator]) }),
    ...(copyright && { 'dc:rights': inLanguage(copyright), 'xmpRights:Marked': 'True' }),
    ...(keywords.length > 0 && { 'dc:subject': listed('Bag', keywords) }),
    ...(sourceType && { 'Iptc4xmpExt:DigitalSourceType': sourceType })
  };
  if (Object.keys(told).length === 0) return null;
  const packet = fragment({
    'x:xmpmeta': {
      '@xmlns:x': 'adobe:ns:meta/',
      'rdf:RDF': {
        '@xmlns:rdf': 'http://www.w3.org/1999/02/22-rdf-syntax-ns#',
        'rdf:Description': {
          '@rdf:about': '',
          '@xmlns:dc': 'http://purl.org/dc/elements/1.1/',
          '@xmlns:xmpRights': 'http://ns.adobe.com/xap/1.0/rights/',
          '@xmlns:Iptc4xmpExt': 'http://iptc.org/std/Iptc4xmpExt/2008-02-29/',
          ...told
        }
      }
    }
  }).toString();
  return `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>${packet}<?xpacket end="w"?>`;
}
