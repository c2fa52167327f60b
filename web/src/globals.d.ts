/** A digest of the shape of the API, written by the build. */
declare const __API_DIGEST__: string;
