import express, { type NextFunction, type Request, type Response } from 'express';
import multer from 'multer';
import { LETTERS } from './letters';
import { page } from './page';
import { sendLetter, type Sent } from './send';

const port = Number(process.env['OUTSIDE_PORT'] ?? 4610);
const smtpPort = Number(process.env['SMTP_PORT'] ?? 4625);
const MOST_SENT = 20;
const MAX_FILE = 40 * 1024 * 1024;

const sent: Sent[] = [];
const app = express();
const upload = multer({ limits: { fileSize: MAX_FILE, files: 10 } });

app.get('/health', (_request, response) => void response.json({ ok: true }));
app.get('/', (_request, response) => void response.type('html').send(page({ sent, letters: LETTERS })));
app.get('/letters.json', (_request, response) => void response.json(LETTERS));
app.post('/mail', upload.array('files'), async (request: Request, response: Response) => {
  const fields = request.body as Record<string, string>;
  const files = (request.files as Express.Multer.File[] | undefined) ?? [];
  const letter = {
    from: fields['from'] ?? '',
    to: fields['to'] ?? '',
    subject: fields['subject'] ?? '',
    text: fields['text'] ?? '',
  };
  const result = await sendLetter(
    letter,
    files.map((file) => ({ filename: file.originalname, content: file.buffer })),
    smtpPort,
  );
  sent.unshift(result);
  sent.length = Math.min(sent.length, MOST_SENT);
  response.redirect(303, '/');
});
app.use((problem: Error, _request: Request, response: Response, _next: NextFunction) => {
  response
    .status(400)
    .type('html')
    .send(page({ sent, letters: LETTERS, problem: problem.message }));
});

app.listen(port, '127.0.0.1', () => process.stdout.write(`outside on http://127.0.0.1:${port}\n`));
