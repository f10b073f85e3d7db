@echo off
rem The command nelvat: hands its arguments to the installed R package.
Rscript -e "quit(save = 'no', status = nelvat:::run_command(commandArgs(trailingOnly = TRUE)))" %*
exit /b %ERRORLEVEL%
