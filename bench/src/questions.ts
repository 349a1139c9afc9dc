import { ZipFile } from 'yazl';
import { makePool, run, withDb } from '@rosemary/server';
import { ask, call, enter, server } from './served.ts';

/** A package of 500 questions brought into the bank and taken out again, beside bare inserts of as many rows and the bytes themselves. */
const MANY = 500;
const print = (text: string): void => {
  process.stdout.write(`${text}\n`);
};
const item = (n: number): string => `<?xml version="1.0" encoding="UTF-8"?>
<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="i${n}" title="Question ${n}" adaptive="false" timeDependent="false">
<responseDeclaration identifier="RESPONSE" cardinality="single" baseType="identifier"><correctResponse><value>B</value></correctResponse></responseDeclaration>
<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/>
<itemBody><p>Which of these has ${n} teeth, and <em>why</em>?</p><choiceInteraction responseIdentifier="RESPONSE" shuffle="true" maxChoices="1">
${['A', 'B', 'C', 'D'].map((c) => `<simpleChoice identifier="${c}">wheel ${c} of ${n}</simpleChoice>`).join('\n')}</choiceInteraction></itemBody>
<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/></assessmentItem>`;

async function makePackage(): Promise<Buffer> {
  const zip = new ZipFile();
  const names = Array.from({ length: MANY }, (_, n) => `items/${n}.xml`);
  const resources = names.map(
    (name, n) => `<resource identifier="r${n}" type="imsqti_item_xmlv2p1" href="${name}"><file href="${name}"/></resource>`,
  );
  zip.addBuffer(Buffer.from(`<manifest><resources>${resources.join('')}</resources></manifest>`), 'imsmanifest.xml');
  names.forEach((name, n) => {
    zip.addBuffer(Buffer.from(item(n)), name);
  });
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** The floor: a question and its version as two bare rows each, in one transaction. */
async function bareInserts(): Promise<number> {
  const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 1);
  try {
    return await withDb(pool, true, async (db) => {
      await run(db, 'create temporary table bare (id int, part text) on commit drop');
      const at = performance.now();
      for (let n = 0; n < MANY; n += 1) {
        await run(db, 'insert into bare values ($1, $2)', [n, 'question']);
        await run(db, 'insert into bare values ($1, $2)', [n, item(n)]);
      }
      return performance.now() - at;
    });
  } finally {
    await pool.end();
  }
}

try {
  const courses = await enter();
  const base = `/courses/${courses.find((c) => c.code === 'HOR-205')?.id ?? ''}/bank`;
  const { home } = await call<{ home: string }>('GET', base);
  const bytes = await makePackage();
  const bring = async (isLook: boolean): Promise<number> => {
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(bytes)]), 'questions.zip');
    const at = performance.now();
    const done = await call<{ questions: { problem: string }[] }>('POST', `${base}/qti${isLook ? '/preview' : ''}`, form);
    const took = performance.now() - at;
    if (done.questions.some((q) => q.problem !== '')) throw new Error('A question did not come in.');
    return took;
  };
  await bring(true);
  const [look, came, bare] = [await bring(true), await bring(false), await bareInserts()];
  print(`questions: a package of ${MANY} items (${Math.round(bytes.length / 1024)} kB) looked at: ${Math.round(look)} ms`);
  print(
    `  brought into the bank: ${Math.round(came)} ms, ${(came / MANY).toFixed(2)} ms an item; ${(came / bare).toFixed(1)} x two bare inserts each (${Math.round(bare)} ms)`,
  );
  for (const version of ['2.1', '3.0']) {
    const at = performance.now();
    const out = await (await ask('GET', `${base}/qti?version=${version}&folder=${home}`)).arrayBuffer();
    const took = performance.now() - at;
    const listed = performance.now();
    await (await ask('GET', `${base}/questions.csv?folder=${home}`)).arrayBuffer();
    const table = performance.now() - listed;
    print(
      `  ${MANY} taken out as QTI ${version} (${Math.round(out.byteLength / 1024)} kB): ${Math.round(took)} ms; ${(took / table).toFixed(1)} x the same questions as a table (${Math.round(table)} ms)`,
    );
  }
} finally {
  server.kill();
}
