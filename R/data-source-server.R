# Tables of a PostgreSQL server, named by the service that its own files and environment describe:
# host, user and password are never in a figure file.

table_of_service <- function(service, ..., call = NULL) {
  need_package("RPostgres", "Asking a PostgreSQL server", call)
  connection <- tryCatch(
    DBI::dbConnect(
      RPostgres::Postgres(),
      service = service,
      bigint = "numeric",
      check_interrupts = TRUE
    ),
    error = function(error) {
      abort_engine(paste0("Reaching the service \"", service, "\""), error, call)
    }
  )
  closed <- TRUE
  on.exit(if (closed) DBI::dbDisconnect(connection))
  # Nothing but questions is sent.
  DBI::dbExecute(connection, "SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY")
  # What a server holds now is not seen from here: such a figure is drawn each time.
  tell_listed(paste0("service-", gsub("[^A-Za-z0-9]", "-", service)), "asked-each-time")
  source <- table_in(connection, ...)
  closed_in_the_end(source$answers, connection)
  closed <- FALSE
  source
}
