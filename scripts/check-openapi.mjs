// Holds the OpenAPI document against the schema of OpenAPI itself.
import { readFileSync } from 'node:fs';
import { Validator } from '@seriousme/openapi-schema-validator';

const result = await new Validator().validate(JSON.parse(readFileSync('docs/openapi.json', 'utf8')));
if (!result.valid) {
  console.error(JSON.stringify(result.errors, null, 1));
  process.exit(1);
}
