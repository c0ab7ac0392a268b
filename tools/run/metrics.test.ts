import { makeMetrics, routeOf } from './metrics';

test.each([
  ['/', '/'],
  ['/?find=Ines', '/'],
  ['/desk/0d5b5a1e-5f0c-4a57-9d0f-6c3f2b8a1e11?bars=3', '/desk/:id'],
  ['/api/parts/0d5b5a1e-5f0c-4a57-9d0f-6c3f2b8a1e11/editions/1d5b5a1e-5f0c-4a57-9d0f-6c3f2b8a1e11/left', '/api/parts/:id/editions/:id/left'],
  ['/key/8cT0kQ_secret', '/key'],
  ['/link/8cT0kQ_secret', '/link'],
  ['/_next/static/chunks/x.js', '/_next'],
  ['/desk/Somebody%20Else', '/desk/:other'],
  [`/${'a/'.repeat(50)}`, '/a/a/a/a/a/a'],
])('%s is counted as %s', (url, route) => expect(routeOf(url)).toBe(route));

test('what was counted is told, and the state with it; a state that cannot be read is no trouble', async () => {
  let fails = false;
  const metrics = makeMetrics(async () => {
    if (fails) throw new Error('away');
    return { waitingTasks: 3, connections: { open: 4, idle: 1, waiting: 2 } };
  });
  metrics.request('GET', '/desk/x', 200, 0.03);
  metrics.request('GET', '/desk/x', 200, 0.04);
  metrics.request('GET', '/made/up', 404, 0.01);
  metrics.book.task('engravePassage', 'done', 0.2);
  metrics.book.query(0.001);
  metrics.book.follows(1);
  metrics.book.follows(1);
  metrics.book.follows(-1);
  const lines = (await metrics.text()).split('\n');
  expect(lines).toEqual(
    expect.arrayContaining([
      'omaggio_request_seconds_count{method="GET",route="/desk/x",status="200"} 2',
      'omaggio_request_seconds_bucket{le="0.025",method="GET",route="/desk/x",status="200"} 0',
      'omaggio_request_seconds_bucket{le="0.05",method="GET",route="/desk/x",status="200"} 2',
      'omaggio_task_seconds_count{task="engravePassage",outcome="done"} 1',
      'omaggio_request_seconds_count{method="GET",route=":none",status="404"} 1',
      'omaggio_query_seconds_count 1',
      'omaggio_followers 1',
      'omaggio_waiting_tasks 3',
      'omaggio_connections{state="waiting"} 2',
    ]),
  );
  fails = true;
  expect(await metrics.text()).toContain('omaggio_metrics_failed_total 1');
});
