"""What is done to somebody's password and PIN: the act as it is traced, and as they are told of it."""

LINK, CHOSEN, CHANGED = "link made", "password chosen", "password changed"
PIN, NO_PIN = "PIN set", "PIN taken away"
TOLD = {
    CHANGED: "your password was changed",
    CHOSEN: "your password was chosen anew through a link",
    PIN: "your PIN was set",
    NO_PIN: "your PIN was taken away",
    LINK: "a link to choose a new password was made for you",
}
