import { randomBytes } from 'node:crypto';
import express, { Router } from 'express';
import type { LedgerFile } from '../ledger';

/** Studyporch: an invented course host. A school has a token; who is enrolled can open the course. */
export function studyporch(ledger: LedgerFile): Router {
  const router = Router();
  const { data } = ledger;
  router.use(express.json());

  router.post('/v1/schools', (request, response) => {
    const school = {
      id: `sp_${randomBytes(6).toString('hex')}`,
      name: String(request.body?.name ?? 'School'),
      token: `sp_tok_${randomBytes(12).toString('hex')}`,
    };
    data.schools.push(school);
    ledger.changed();
    response.status(201).json(school);
  });

  router.post('/v1/enrolments', (request, response) => {
    const token = (request.get('authorization') ?? '').replace(/^Bearer /, '');
    const school = data.schools.find((candidate) => candidate.token === token);
    if (!school) {
      response.status(401).json({ message: 'Unknown token.' });
      return;
    }
    const { courseId, email, firstName } = request.body ?? {};
    if (typeof courseId !== 'string' || typeof email !== 'string') {
      response.status(400).json({ message: 'An enrolment needs courseId and email.' });
      return;
    }
    const known = data.enrolments.find((one) => one.school === school.id && one.courseId === courseId && one.email === email);
    const enrolment = known ?? {
      id: `sp_enr_${randomBytes(6).toString('hex')}`,
      school: school.id,
      courseId,
      email,
      firstName: String(firstName ?? ''),
      at: new Date().toISOString(),
    };
    if (!known) {
      data.enrolments.unshift(enrolment);
      ledger.changed();
    }
    response.status(known ? 200 : 201).json(enrolment);
  });

  return router;
}
