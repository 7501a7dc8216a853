/** Title, caption, creator, rights and keywords as an XMP packet (ISO 16684-1) in the terms of the IPTC Core. */

export interface Rights {
  title: string;
  caption: string;
  creator: string;
  copyright: string;
  keywords: readonly string[];
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** XML has no place for control characters. */
const escape = (text: string): string =>
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '').replace(/[&<>"]/g, (c) => ESCAPES[c]);

const item = (text: string, attributes = ''): string => `<rdf:li${attributes}>${escape(text)}</rdf:li>`;
const inLanguage = (text: string): string => `<rdf:Alt>${item(text, ' xml:lang="x-default"')}</rdf:Alt>`;

export function xmpPacket({ title, caption, creator, copyright, keywords }: Rights): string | null {
  const parts = [
    title && `<dc:title>${inLanguage(title)}</dc:title>`,
    caption && `<dc:description>${inLanguage(caption)}</dc:description>`,
    creator && `<dc:creator><rdf:Seq>${item(creator)}</rdf:Seq></dc:creator>`,
    copyright && `<dc:rights>${inLanguage(copyright)}</dc:rights>`,
    copyright && '<xmpRights:Marked>True</xmpRights:Marked>',
    keywords.length > 0 &&
      `<dc:subject><rdf:Bag>${keywords.map((word) => item(word)).join('')}</rdf:Bag></dc:subject>`
  ].filter(Boolean);
  if (parts.length === 0) return null;
  return (
    '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>' +
    '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">' +
    '<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" ' +
    'xmlns:xmpRights="http://ns.adobe.com/xap/1.0/rights/">' +
    `${parts.join('')}</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="w"?>`
  );
}
