### Words of api.

## client.ts

limpet-isnt-answering-check-that = Limpet isn’t answering. Check that it is running, then try again.

## keeping.ts

a-test-without-a-title = a test without a title
