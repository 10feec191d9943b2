"""The computation. Imports no Qt, opens no file, reads no clock."""
