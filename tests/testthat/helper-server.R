# A PostgreSQL server of its own in a temporary folder, for as long as a test file runs; NULL where
# there is none to be had. Debian's own servers are left alone.
server_programs <- function() {
  folders <- c(Sys.glob("/usr/lib/postgresql/*/bin"), dirname(Sys.which("initdb")))
  folders <- folders[nzchar(folders) & file.exists(file.path(folders, "initdb"))]
  if (length(folders)) utils::tail(sort(folders), 1)
}

skip_without_server <- function() {
  testthat::skip_if_not(at_length(), "Servers run where CI=true or ALL=1")
  testthat::skip_if_not(!is.null(server_programs()), "PostgreSQL is not installed")
  testthat::skip_if_not_installed("RPostgres")
}

# Servers are of the user postgres where the tests are root's.
as_server_user <- function(program, arguments) {
  root <- identical(unname(Sys.info()[["effective_user"]]), "root")
  command <- c(file.path(server_programs(), program), arguments)
  if (root) command <- c("runuser", "-u", "postgres", "--", command)
  status <- suppressWarnings(
    system2(command[1], shQuote(command[-1]), stdout = FALSE, stderr = FALSE)
  )
  if (status != 0) stop("`", program, "` ended with status ", status, ".")
}

local_server <- function(env = parent.frame()) {
  # A socket's path may have no more than about 100 letters.
  folder <- tempfile("pg", tmpdir = "/tmp")
  dir.create(folder)
  Sys.chmod(folder, "0777", use_umask = FALSE)
  withr::defer(unlink(folder, recursive = TRUE), envir = env)
  data <- file.path(folder, "data")
  as_server_user(
    "initdb",
    c("-D", data, "--auth=trust", "--no-sync", "-E", "UTF8", "--locale=C.UTF-8", "-U", "postgres")
  )
  settings <- c(
    listen_addresses = "''",
    unix_socket_directories = paste0("'", folder, "'"),
    fsync = "off",
    enable_partitionwise_aggregate = "on"
  )
  options <- paste0("-c ", names(settings), "=", settings, collapse = " ")
  withr::defer(
    as_server_user("pg_ctl", c("-D", data, "-m", "immediate", "-w", "stop")),
    envir = env
  )
  log <- file.path(folder, "log")
  as_server_user("pg_ctl", c("-D", data, "-w", "-o", options, "-l", log, "start"))
  folder
}

connected_to <- function(folder, env = parent.frame(), ...) {
  connection <- DBI::dbConnect(
    RPostgres::Postgres(),
    host = folder,
    user = "postgres",
    dbname = "postgres",
    ...
  )
  withr::defer(DBI::dbDisconnect(connection), envir = env)
  connection
}
