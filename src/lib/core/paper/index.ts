/** Documents to be read by themselves or printed: a web page here, a PDF by the server (`server/formats/pdf`). */
export { formatPaperHtml } from './html';
export { paperSchema, textOf, type Paper, type Part, type Phrase } from './paper';
