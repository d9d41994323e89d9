import { xmlText } from './syntax';

/** The metadata of a file. */
export interface DocumentFacts {
  title: string;
  author: string;
  producer: string;
  /** YYYY-MM-DD, or empty. Taken from the content (its newest revision), never from the clock. */
  date: string;
  /** 32 hexadecimal digits that identify the content. */
  id: string;
}

/** ISO 19005-2, 6.6.4: part 2, conformance B. */
const ARCHIVAL = `
<rdf:Description rdf:about="" xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/">
<pdfaid:part>2</pdfaid:part>
<pdfaid:conformance>B</pdfaid:conformance>
</rdf:Description>`;

/** The XMP packet of a file (ISO 16684-1; ISO 32000-2, 14.3.2), agreeing with its information dictionary. */
export function metadata(facts: DocumentFacts, archival = false): string {
  const date = facts.date ? `${facts.date}T00:00:00Z` : '';
  return `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/">
<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:pdf="http://ns.adobe.com/pdf/1.3/">
<dc:format>application/pdf</dc:format>
<dc:title><rdf:Alt><rdf:li xml:lang="x-default">${xmlText(facts.title)}</rdf:li></rdf:Alt></dc:title>
${facts.author ? `<dc:creator><rdf:Seq><rdf:li>${xmlText(facts.author)}</rdf:li></rdf:Seq></dc:creator>\n` : ''}<xmp:CreatorTool>${xmlText(facts.producer)}</xmp:CreatorTool>
${date ? `<xmp:CreateDate>${date}</xmp:CreateDate>\n<xmp:ModifyDate>${date}</xmp:ModifyDate>\n` : ''}<pdf:Producer>${xmlText(facts.producer)}</pdf:Producer>
</rdf:Description>${archival ? ARCHIVAL : ''}
</rdf:RDF>
</x:xmpmeta>
<?xpacket end="r"?>`;
}
