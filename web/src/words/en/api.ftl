### Words of api.

## client.ts

limpet-isnt-answering-check-that = Limpet isn’t answering. Check that it is running, then try again.
answered-without-a-reason = Limpet answered with { $status } and gave no reason. Try again.

## keeping.ts

a-test-without-a-title = a test without a title
