"""The application in the browser: one router a screen."""
