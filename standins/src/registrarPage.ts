interface Shown {
  readonly window: { readonly opensAt: string; readonly closesAt: string };
  readonly mood: { readonly outage: string; readonly percent: number; readonly delay: number };
  readonly sections: Readonly<
    Record<string, { readonly title: string; readonly teacher: string; readonly students: readonly { key: string; name: string }[] }>
  >;
  readonly grades: Readonly<
    Record<
      string,
      {
        readonly letter: string;
        readonly lastDay: string | null;
        readonly expiresOn: string | null;
        readonly lapsesTo: string | null;
        readonly receipt: string;
        readonly at: string;
        readonly corrects: string | null;
      }
    >
  >;
}
const SIGNS: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const safe = (words: string): string => words.replace(/[&<>"]/g, (sign) => SIGNS[sign] ?? sign);
const WORDS: Readonly<Record<string, string>> = {
  none: 'answers as it should',
  refuses: 'refuses connections',
  silent: 'takes the request and never answers',
  'stores then fails': 'stores the grade, then answers that it failed',
};

/** The page of the simulated registrar: its window, its mood, and what it holds. */
export function registrarPage({ window, mood, sections, grades }: Shown, outages: readonly string[]): string {
  const options = outages.map((o) => `<option value="${safe(o)}"${o === mood.outage ? ' selected' : ''}>${safe(WORDS[o] ?? o)}</option>`);
  const tables = Object.entries(sections).map(([key, section]) => {
    const lines = section.students.map((s) => {
      const grade = grades[`${key} ${s.key}`];
      const more =
        grade === undefined
          ? ''
          : [
              grade.lastDay === null ? '' : `last day ${grade.lastDay}`,
              grade.expiresOn === null ? '' : `until ${grade.expiresOn}, then ${grade.lapsesTo ?? 'nothing'}`,
              grade.corrects === null ? '' : `corrects ${grade.corrects}`,
            ]
              .filter((w) => w !== '')
              .join('; ');
      return `<tr><td>${safe(s.key)}</td><td>${safe(s.name)}</td><td><b>${safe(grade?.letter ?? '')}</b></td><td>${safe(more)}</td><td>${safe(grade === undefined ? '' : `${grade.receipt}, ${grade.at}`)}</td></tr>`;
    });
    const held = section.students.filter((s) => grades[`${key} ${s.key}`] !== undefined).length;
    return `<h2>${safe(section.title)} <small>${safe(key)}, instructor of record ${safe(section.teacher)}; ${held} of ${section.students.length} graded</small></h2>
<table><thead><tr><th>Key</th><th>Student</th><th>Letter</th><th></th><th>Receipt</th></tr></thead><tbody>${lines.join('')}</tbody></table>`;
  });
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Simulated registrar</title><style>
body{font:16px/24px Georgia,serif;margin:32px auto;max-width:960px;padding:0 20px;background:#f4f1ea;color:#23211c}
h1{font-size:26px}h2{font-size:18px;margin:28px 0 6px}small{font-weight:400;color:#5d594f}
form{display:grid;grid-template-columns:repeat(auto-fit,minmax(200px,1fr));gap:12px 24px;align-items:end;background:#fff;padding:18px 20px;border:1px solid #ddd6c8}
label{display:block;font-size:14px}input,select,button{font:inherit;width:100%;box-sizing:border-box;padding:4px 6px}
table{border-collapse:collapse;width:100%;background:#fff;font-size:14px}td,th{text-align:left;padding:3px 10px;border-bottom:1px solid #e8e2d6}
</style></head><body><h1>Simulated registrar</h1>
<p>It stands in for a school’s own. Here you set when it takes grades and how it behaves, and see what it holds.</p>
<form method="post"><label>Window opens<input name="opensAt" value="${safe(window.opensAt)}"></label>
<label>Window closes<input name="closesAt" value="${safe(window.closesAt)}"></label>
<label>How it behaves<select name="outage">${options.join('')}</select></label>
<label>In how many of 100 requests<input name="percent" type="number" min="0" max="100" value="${mood.percent}"></label>
<label>Answers after, in milliseconds<input name="delay" type="number" min="0" max="60000" value="${mood.delay}"></label>
<button>Set</button></form>
${tables.join('\n')}</body></html>`;
}
