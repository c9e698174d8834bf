import {
  startAuthentication,
  startRegistration,
  WebAuthnError,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
} from "@simplewebauthn/browser";

const HAS_IT = "ERROR_AUTHENTICATOR_PREVIOUSLY_REGISTERED";

/** What the device said, in words that tell what to do next. */
function inWords(error: unknown): Error {
  const had = error instanceof WebAuthnError && error.code === HAS_IT;
  const said = had
    ? "This device has a passkey for you already."
    : "The device gave no passkey. Try again, or use something else.";
  return new Error(said, { cause: error });
}

async function said(given: () => Promise<object>): Promise<string> {
  try {
    return JSON.stringify(await given());
  } catch (error) {
    throw inWords(error);
  }
}

/** Lets the device make a passkey. */
export function made(options: string): Promise<string> {
  const optionsJSON = JSON.parse(options) as PublicKeyCredentialCreationOptionsJSON;
  return said(() => startRegistration({ optionsJSON }));
}

/** Lets the device show one. */
export function shown(options: string): Promise<string> {
  const optionsJSON = JSON.parse(options) as PublicKeyCredentialRequestOptionsJSON;
  return said(() => startAuthentication({ optionsJSON }));
}
