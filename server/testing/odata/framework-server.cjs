// The services of @themost in a process of their own, since they keep timers and connections that nothing ends.
const express = require('express');
const { ExpressDataApplication, dateReviver, serviceRouter } = require('@themost/express');

const app = express();
app.use(express.json({ reviver: dateReviver }));
app.use(new ExpressDataApplication(process.argv[2]).middleware(app));
app.use((request, response, next) => {
  request.context.user = { name: 'tester', authenticationType: 'Basic' };
  response.on('close', () => request.context.finalize(() => undefined));
  next();
});
app.use('/framework', serviceRouter);
const server = app.listen(0, '127.0.0.1', () => process.send({ port: server.address().port }));
