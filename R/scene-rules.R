# Every straight line that is no mark: axes, ticks, rules under headings.

minor_tick_share <- 0.55 # of a tick's length

scene_rules <- function(panels, axes, own, house) {
  right <- panels$x + panels$w
  bottom <- panels$y + panels$h
  headed <- which(!is.na(panels$heading))
  heading_y <- heading_rule_y(panels, own, house)
  # An axis that is there for its name alone has no line.
  lined <- function(shown) {
    if (house$axis_lines) which(vapply(shown, function(i) !is.na(i) && !axes[[i]]$bare, NA))
  }
  x_shown <- lined(panels$x_shown)
  y_shown <- lined(panels$y_shown)
  grounded <- stands_on_ground(panels, own$block)
  top <- which(panels$side %in% "x" & grounded)
  side <- which(panels$side %in% "y" & grounded)
  rules <- stack_tables(
    c(
      list(
        new_rule(
          "axis",
          panels$id[x_shown],
          panels$x[x_shown],
          bottom[x_shown],
          right[x_shown],
          bottom[x_shown]
        ),
        new_rule(
          "axis",
          panels$id[y_shown],
          panels$x[y_shown],
          panels$y[y_shown],
          panels$x[y_shown],
          bottom[y_shown]
        ),
        # Marginals stand on a hair line.
        new_rule("ground", panels$id[top], panels$x[top], bottom[top], right[top], bottom[top]),
        new_rule(
          "ground",
          panels$id[side],
          panels$x[side],
          panels$y[side],
          panels$x[side],
          bottom[side]
        )
      ),
      tick_rules(panels, axes, own$fits, house),
      name_leaders(panels, axes, own$fits, house),
      also_rules(panels, own, house),
      list(
        new_rule(
          "heading rule",
          panels$id[headed],
          panels$x[headed],
          heading_y[headed],
          right[headed],
          heading_y[headed]
        ),
        span_rules(own)
      )
    )
  )
  if (!length(rules)) {
    rules <- new_table(
      role = character(),
      panel = integer(),
      x0 = numeric(),
      y0 = numeric(),
      x1 = numeric(),
      y1 = numeric(),
      .rows = 0L
    )
  }
  hair <- rules$role %in% c("heading rule", "ground")
  changed(
    rules,
    weight_pt = ifelse(hair, house$weight_pt$heading_rule, house$weight_pt$axis),
    colour = ifelse(hair, house$colour$heading_rule, house$colour$axis)
  )
}

# Is what a marginal holds read from the hair line that it stands on?
stands_on_ground <- function(panels, block) {
  inks <- block$design$marginals$inks
  in_strip <- function(side, tier) {
    ink_traits(inks[[side]][[match(tier, margin_tiers(inks[[side]]))]])$own_strip
  }
  mapply(
    function(side, tier) !is.na(side) && !in_strip(side, tier),
    panels$side,
    panels$tier
  )
}

new_rule <- function(role, panel, x0, y0, x1, y1) {
  n <- if (length(x0) && length(y0)) max(length(x0), length(y0)) else 0L
  if (n) new_table(role = role, panel = panel, x0 = x0, y0 = y0, x1 = x1, y1 = y1, .rows = n)
}

span_rules <- function(own) {
  spans <- own$block$parts$spans
  if (is.null(spans)) return(NULL)
  x <- own$frame$x
  y <- span_rule_y(own)
  new_rule(
    "heading rule",
    NA_integer_,
    x$start_mm[spans$from],
    y,
    (x$start_mm + x$length_mm)[spans$to],
    y
  )
}

# From ticks to names that stand beside them.
name_leaders <- function(panels, axes, fits, house) {
  tick <- tick_out_mm(house)
  unlist(
    Map(
      function(axis, fit) {
        if (!is_led(fit)) return(NULL)
        lapply(axis$drawn_at, function(id) {
          one_panel <- panels[panels$id == id, ]
          unit <- fit$unit[fit$kept]
          if (axis$direction == "y") {
            y <- one_panel$y + (1 - unit) * one_panel$h
            x <- one_panel$x - tick
            return(new_rule("leader", id, x, y, x - leader_mm, y - fit$moved))
          }
          x <- one_panel$x + unit * one_panel$w
          y <- one_panel$y + one_panel$h + tick
          new_rule("leader", id, x, y, x + fit$moved, y + leader_mm)
        })
      },
      axes,
      fits
    ),
    recursive = FALSE
  )
}

# Ticks of the axes each panel shows; marginals have theirs only where they bear tick text.
tick_rules <- function(panels, axes, fits, house) {
  bottom <- panels$y + panels$h
  # Ticks point outwards, or into the plot area.
  tick <- house$space_mm$tick * if (house$ticks$side == "out") 1 else -1
  unlist(
    lapply(seq_len(nrow(panels)), function(i) {
      shown <- function(direction) {
        shown_axis <- panels[[paste0(direction, "_shown")]][i]
        axis_below <- panels[[paste0(direction, "_axis")]][i]
        if (panels$role[i] == "marginal" && panels$id[i] %in% axes[[axis_below]]$drawn_at) {
          axis_below
        } else {
          shown_axis
        }
      }
      x <- shown("x")
      y <- shown("y")
      along_x <- function(unit) panels$x[i] + unit * panels$w[i]
      along_y <- function(unit) bottom[i] - unit * panels$h[i]
      ticks_y <- if (!is.na(y)) axes[[y]]$unit[!axes[[y]]$breaks %in% fits[[y]]$heads]
      c(
        if (!is.na(x)) {
          list(
            new_rule(
              "tick",
              panels$id[i],
              along_x(axes[[x]]$unit),
              bottom[i],
              along_x(axes[[x]]$unit),
              bottom[i] + tick
            ),
            new_rule(
              "minor tick",
              panels$id[i],
              along_x(axes[[x]]$minor),
              bottom[i],
              along_x(axes[[x]]$minor),
              bottom[i] + tick * minor_tick_share
            )
          )
        },
        if (!is.na(y)) {
          list(
            new_rule(
              "tick",
              panels$id[i],
              panels$x[i] - tick,
              along_y(ticks_y),
              panels$x[i],
              along_y(ticks_y)
            ),
            new_rule(
              "minor tick",
              panels$id[i],
              panels$x[i] - tick * minor_tick_share,
              along_y(axes[[y]]$minor),
              panels$x[i],
              along_y(axes[[y]]$minor)
            )
          )
        }
      )
    }),
    recursive = FALSE
  )
}
