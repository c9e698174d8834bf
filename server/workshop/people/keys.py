"""What is done to somebody's password and PIN: the act as it is traced, and as they are told of it."""

LINK, CHOSEN, CHANGED = "link made", "password chosen", "password changed"
PIN, NO_PIN = "PIN set", "PIN taken away"
SECOND, NO_SECOND = "second factor begun", "second factor cleared"
PASSKEY, NO_PASSKEY = "passkey made", "passkey removed"
CODES, CODE_USED = "recovery codes made", "recovery code used"
TOLD = {
    CHANGED: "your password was changed",
    CHOSEN: "your password was chosen anew through a link",
    PIN: "your PIN was set",
    NO_PIN: "your PIN was taken away",
    SECOND: "a second factor was set up for you",
    NO_SECOND: "your second factor was cleared",
    PASSKEY: "a passkey was made for you",
    NO_PASSKEY: "a passkey of yours was removed",
    CODES: "new recovery codes were made for you",
    CODE_USED: "one of your recovery codes was used",
    LINK: "a link to choose a new password was made for you",
}
