/* The loop of mainspring/core/simulation/kernel.py once more, in C: what the compiled kernel is measured against.
   Same structures in the same order, same functions, all doubles; built with -O2 by benchmarks/loop.py. */
#include <math.h>

#define ATMOSPHERE 101325.0
enum { HEADER, FLOW, LEVEL, HEAT, OPEN, ROOM };
enum { NO_REST, BY_SPEED, BY_LEVEL };
enum { AWAKE, BOOSTING, ASLEEP, FILLING, TRIPPED, LOCKED };
enum { NONE, BOOST, SLEEP, WAKE, LIMITED, TRIP, RETRY, LOCKOUT, ANOTHER, FEWER, HIGH, LOST, FILLED, TOP, CAUGHT,
       SLAMMED, TURN };

typedef struct {
	double kind, weight, c0, c1, c2, best_flow, best_efficiency, size_exponent, lift, friction, tank_volume, precharge,
		elastic, nominal, inertia, area, direction, standby, high, high_off, drawdown, well_area, capacity, exchange,
		stream, full_flow, leak, dry_from, dry_until, substeps;
} Plant;
typedef struct {
	double low, high, follow, noise, resolution, least, most, lost_from, lost_until, told, on_loss;
} Sensor;
typedef struct {
	double setpoint, second, second_from, action, gain, integral_time, derivative_time, low, high, hand_until;
} Controller;
typedef struct {
	double up, down, torque_limit, rated_power, run_up, dry_power, dry_scaled, dry_delay, retries, retry_after,
		fill_speed, fill_until, fill_time, coast, catches;
} Drive;
typedef struct { double by, below, delay, boost, wake, stop; } Rest;
typedef struct { double machines, on, off, delay, join, turn; } Set;
typedef struct { double step; Plant plant; Sensor sensor; Controller control; Drive drive; Rest rest; Set set; } Config;
typedef struct {
	double value, stored, flow, taken, power, well, measured, reading, speed, rotor, integral, slope;
	int mode;
	double clock, dry_clock, trips, running, wanted, stage_clock, lead, turn_clock, limited, top, high, helped;
} State;

static inline double larger(double a, double b) { return b > a ? b : a; }
static inline double smaller(double a, double b) { return b < a ? b : a; }

static double machine_flow(const Plant *p, double speed, double need, double running) {
	double spare = p->c0 * speed * speed - need;
	if (spare <= 0.0 || running <= 0.0) return 0.0;
	double a = p->c2 - p->friction * running * running, b = p->c1 * speed;
	return larger(0.0, running * (-b - sqrt(larger(b * b - 4.0 * a * spare, 0.0))) / (2.0 * a));
}

static double flow_slope(const Plant *p, double speed, double flow, double running) {
	if (flow <= 0.0) return 0.0;
	double slope = p->c1 * speed + 2.0 * (p->c2 - p->friction * running * running) * flow / running;
	return slope >= 0.0 ? 0.0 : running / (slope * p->weight);
}

static double stored_at(const Plant *p, double pressure) {
	double stored = p->elastic * pressure;
	if (p->tank_volume > 0.0 && pressure > p->precharge)
		stored += p->tank_volume * (1.0 - (p->precharge + ATMOSPHERE) / (pressure + ATMOSPHERE));
	return stored;
}

static double pressure_at(const Plant *p, double stored) {
	if (p->tank_volume <= 0.0 || stored <= p->elastic * p->precharge) return stored / p->elastic;
	double b = p->tank_volume - p->elastic * ATMOSPHERE - stored;
	double air = p->tank_volume * (p->precharge + ATMOSPHERE);
	return (-b + sqrt(b * b + 4.0 * p->elastic * air)) / (2.0 * p->elastic) - ATMOSPHERE;
}

static double compliance(const Plant *p, double pressure) {
	if (p->tank_volume <= 0.0 || pressure <= p->precharge) return p->elastic;
	double absolute = pressure + ATMOSPHERE;
	return p->elastic + p->tank_volume * (p->precharge + ATMOSPHERE) / (absolute * absolute);
}

static void header(const Config *c, const State *s, double speed, double demand, double lift, double *pressure,
                   double *stored, double *pumped, double *taken) {
	const Plant *p = &c->plant;
	double dt = c->step / p->substeps;
	*pressure = s->value, *stored = s->stored, *pumped = 0.0, *taken = 0.0;
	for (int i = 0; i < (int)p->substeps; i++) {
		double flow = machine_flow(p, speed, *pressure / p->weight + lift, s->running);
		double out = *pressure > 0.0 ? demand * sqrt(*pressure / p->nominal) : 0.0;
		double slope = flow_slope(p, speed, flow, s->running);
		double out_slope = out / (2.0 * larger(*pressure, 0.01 * p->nominal));
		double moved = dt * (flow - out) / (compliance(p, *pressure) - dt * (slope - out_slope));
		flow = larger(0.0, flow + slope * moved);
		out = larger(0.0, out + out_slope * moved);
		out = smaller(out, flow + *stored / dt);
		*stored = larger(0.0, *stored + dt * (flow - out));
		*pressure = pressure_at(p, *stored);
		*pumped += flow;
		*taken += out;
	}
	*pumped /= p->substeps;
	*taken /= p->substeps;
}

static void room(const Config *c, const State *s, double speed, double supply, double *pressure, double *drawn,
                 double *come) {
	const Plant *p = &c->plant;
	double dt = c->step / p->substeps;
	*pressure = s->value, *drawn = 0.0, *come = 0.0;
	for (int i = 0; i < (int)p->substeps; i++) {
		double flow = machine_flow(p, speed, -*pressure / p->weight, s->running);
		double slope = -flow_slope(p, speed, flow, s->running);
		double size = larger(fabs(*pressure), 0.01 * p->nominal);
		double leak_slope = -p->leak / sqrt(p->nominal * size);
		double leak = leak_slope * *pressure;
		double moved = dt * (supply + leak - flow) / (p->elastic - dt * (0.5 * leak_slope - slope));
		*pressure += moved;
		*drawn += flow + slope * moved;
		*come += supply + leak + 0.5 * leak_slope * moved;
	}
	*drawn /= p->substeps;
	*come /= p->substeps;
}

static double pipeline(const Config *c, const State *s, double speed, double opening) {
	const Plant *p = &c->plant;
	double k = p->friction / larger(opening * opening, 1e-4);
	double rise = p->c0 * speed * speed + p->c1 * speed * s->flow + (p->c2 - k) * s->flow * s->flow - p->lift;
	double slope = p->c1 * speed + 2.0 * (p->c2 - k) * s->flow;
	return larger(0.0, s->flow + c->step * rise / (p->inertia - c->step * smaller(slope, 0.0)));
}

static void pit(const Config *c, const State *s, double speed, double demand, double *level, double *water,
                double *flow, double *taken, double *high, double *helped) {
	const Plant *p = &c->plant;
	*flow = machine_flow(p, speed, p->lift + p->direction * (s->value - p->nominal), s->running);
	*high = s->high;
	if (s->value >= p->high) *high = 1.0;
	else if (s->value <= p->high_off) *high = 0.0;
	*water = s->value * p->area, *taken = demand, *helped = 0.0;
	if (p->direction < 0.0) {
		*flow = smaller(*flow, demand + *water / c->step);
		*helped = smaller(p->standby * *high, demand + *water / c->step - *flow);
		*water += c->step * (demand - *flow - *helped);
	} else {
		*taken = smaller(demand, *flow + *water / c->step);
		*water += c->step * (*flow - *taken);
	}
	*level = larger(0.0, *water) / p->area;
}

static double shaft_power(const Plant *p, double speed, double flow, double running) {
	if (speed <= 0.01 || running <= 0.0) return 0.0;
	double each = flow / running;
	double rise = p->c0 * speed * speed + p->c1 * speed * each + p->c2 * each * each;
	double x = smaller(each / (speed * p->best_flow), 1.9);
	double by_affinity = p->weight * larger(rise, 0.0) * speed * p->best_flow / (p->best_efficiency * (2.0 - x));
	double eta = p->best_efficiency * (2.0 * x - x * x);
	if (eta > 0.05 && p->size_exponent > 0.0 && speed < 1.0) {
		double corrected = 1.0 - (1.0 - eta) * exp(-p->size_exponent * log(speed));
		by_affinity *= eta / larger(corrected, 0.05);
	}
	return running * by_affinity;
}

static double setpoint_at(const Config *c, double t) {
	return t >= c->control.second_from ? c->control.second : c->control.setpoint;
}

static double controller(const Config *c, const State *s, double setpoint, double reading, double *integral,
                         double *slope) {
	const Controller *k = &c->control;
	double span = c->sensor.high - c->sensor.low, error = k->action * (setpoint - reading) / span;
	*slope = 0.0;
	if (k->derivative_time > 0.0) {
		double filter_time = k->derivative_time / 10.0;
		double moved = k->action * (s->reading - reading) / span / c->step;
		*slope = s->slope + c->step / (filter_time + c->step) * (moved - s->slope);
	}
	*integral = smaller(larger(*integral + k->gain * error * c->step / k->integral_time, k->low), k->high);
	double output = *integral + k->gain * (error + k->derivative_time * *slope);
	return smaller(larger(output, k->low), k->high);
}

static int slept_enough(const Config *c, double reading) {
	if (c->rest.by == BY_LEVEL) return c->plant.direction * (c->rest.wake - reading) >= 0.0;
	return c->control.action * (c->rest.wake - reading) > 0.0;
}

static int may_rest(const Config *c, const State *s, double reading, double setpoint) {
	if (c->rest.by == BY_SPEED)
		return c->control.action * (reading - setpoint) >= -c->sensor.resolution && s->speed <= c->rest.below;
	if (c->rest.by == BY_LEVEL) return c->plant.direction * (reading - c->rest.stop) >= 0.0;
	return 0;
}

static int decided(const Config *c, const State *s, double reading, double setpoint, double *clock, double *target,
                   double *integral, double *slope, int *event) {
	int mode = s->mode;
	*clock = s->clock + c->step, *integral = s->integral, *slope = 0.0, *target = 0.0, *event = NONE;
	if (mode == ASLEEP) {
		if (slept_enough(c, reading))
			mode = AWAKE, *clock = 0.0, *integral = c->control.low, *target = c->control.low, *event = WAKE;
	} else if (mode == FILLING) {
		*target = c->drive.fill_speed;
		if (reading >= c->drive.fill_until || *clock >= c->drive.fill_time)
			mode = AWAKE, *clock = 0.0, *integral = s->speed, *event = FILLED;
	} else if (mode == BOOSTING) {
		double aim = setpoint + c->control.action * c->rest.boost;
		*target = controller(c, s, aim, reading, integral, slope);
		if (c->control.action * (reading - aim) >= -c->sensor.resolution || *clock >= 30.0)
			mode = ASLEEP, *clock = 0.0, *target = 0.0, *event = SLEEP;
		else if (slept_enough(c, reading))
			mode = AWAKE, *clock = 0.0, *event = WAKE;
	} else {
		*target = controller(c, s, setpoint, reading, integral, slope);
		if (!may_rest(c, s, reading, setpoint)) *clock = 0.0;
		else if (*clock >= c->rest.delay) {
			*clock = 0.0;
			if (c->rest.by == BY_SPEED && c->rest.boost > 0.0) mode = BOOSTING, *event = BOOST;
			else mode = ASLEEP, *target = 0.0, *event = SLEEP;
		}
	}
	return mode;
}

static int ordered(const Config *c, const State *s, double reading, double reference, double hand, double t,
                   int lost, double *clock, double *target, double *integral, double *slope, int *event) {
	const Controller *k = &c->control;
	*clock = s->clock + c->step, *target = 0.0, *integral = s->integral, *slope = 0.0, *event = NONE;
	if (s->mode == LOCKED) return LOCKED;
	if (s->mode == TRIPPED) {
		if (*clock < c->drive.retry_after) return TRIPPED;
		*clock = 0.0, *target = k->low, *integral = k->low, *event = RETRY;
		return AWAKE;
	}
	if (c->plant.kind == OPEN) {
		*target = reference < 0.0 ? 0.0 : smaller(larger(reference, k->low), k->high);
		return s->mode;
	}
	if (t < k->hand_until) {
		*target = hand;
		double error = k->action * (setpoint_at(c, t) - reading) / (c->sensor.high - c->sensor.low);
		*clock = 0.0, *integral = smaller(larger(*target - k->gain * error, k->low), k->high);
		return s->mode;
	}
	if (lost && c->sensor.told > 0.0 && s->mode != ASLEEP) {
		if (c->sensor.on_loss == 0.0) {
			*clock = 0.0, *event = LOST;
			return LOCKED;
		}
		*target = c->sensor.on_loss == 1.0 ? s->speed : k->low;
		*clock = 0.0, *integral = smaller(larger(*target, k->low), k->high);
		*event = s->reading > c->sensor.least ? LOST : NONE;
		return s->mode;
	}
	return decided(c, s, reading, setpoint_at(c, t), clock, target, integral, slope, event);
}

static double ramped(const Config *c, const State *s, double speed, double target, int stopped, double *limited,
                     double *rotor) {
	const Drive *d = &c->drive;
	double was = speed;
	*limited = 0.0;
	if (stopped && d->coast > 0.0) {
		double torque = 0.02;
		if (s->rotor > 0.01) torque += s->power / (s->rotor * d->rated_power);
		*rotor = larger(0.0, s->rotor - c->step * torque / larger(d->run_up, c->step));
		return 0.0;
	}
	double steady = was > 0.05 ? s->power / (was * d->rated_power * s->running) : 0.0;
	if (target > speed) {
		double rate = 1.0 / d->up, spare = d->torque_limit - steady;
		if (d->run_up * rate > spare) {
			*limited = 1.0;
			rate = spare > 0.0 && d->run_up > 0.0 ? spare / d->run_up : 0.0;
		}
		speed = smaller(target, speed + c->step * rate);
	} else
		speed = larger(target, speed - c->step / d->down);
	if (steady > d->torque_limit) {
		*limited = 1.0;
		speed = smaller(speed, larger(0.0, was - c->step / d->down));
	}
	*rotor = speed;
	return speed;
}

static double staged(const Config *c, const State *s, double speed, int mode, double *wanted, double *clock,
                     int *event) {
	const Set *g = &c->set;
	*wanted = s->wanted, *clock = s->stage_clock, *event = NONE;
	if (g->machines <= 1.0) return s->running;
	if (mode != AWAKE) *wanted = 1.0, *clock = 0.0;
	else if (speed >= g->on && *wanted < g->machines) {
		*clock = larger(*clock, 0.0) + c->step;
		if (*clock >= g->delay) *wanted += 1.0, *clock = 0.0, *event = ANOTHER;
	} else if (speed <= g->off && *wanted > 1.0) {
		*clock = smaller(*clock, 0.0) - c->step;
		if (-*clock >= g->delay) *wanted -= 1.0, *clock = 0.0, *event = FEWER;
	} else
		*clock = 0.0;
	double moved = c->step / g->join;
	return *wanted > s->running ? smaller(*wanted, s->running + moved) : larger(*wanted, s->running - moved);
}

static State advance(const Config *c, const State *s, double demand, double hand, double noise, double seen, double t,
                     int *event) {
	const Plant *p = &c->plant;
	const Sensor *n = &c->sensor;
	State next = *s;
	next.measured = s->measured + n->follow * (seen + n->noise * noise - s->measured);
	double reading = next.measured;
	if (n->resolution > 0.0) reading = floor(reading / n->resolution + 0.5) * n->resolution;
	reading = smaller(larger(reading, n->least), n->most);
	int lost = n->lost_from <= t && t < n->lost_until;
	if (lost) reading = n->least;
	double target, limited, rotor;
	int mode = ordered(c, s, reading, demand, hand, t, lost, &next.clock, &target, &next.integral, &next.slope, event);
	int stopped = mode == ASLEEP || mode >= TRIPPED || (p->kind == OPEN && demand < 0.0);
	if (stopped) target = 0.0;
	double speed = s->speed;
	if (p->kind == OPEN && !stopped && s->speed == 0.0 && s->rotor > 0.05) {
		if (c->drive.catches > 0.0) speed = s->rotor, *event = CAUGHT;
		else mode = LOCKED, next.clock = 0.0, target = 0.0, *event = SLAMMED;
	}
	speed = ramped(c, s, speed, target, stopped, &limited, &rotor);
	int staging;
	double running = staged(c, s, speed, mode, &next.wanted, &next.stage_clock, &staging);
	int dry = p->dry_from <= t && t < p->dry_until;
	double push = dry ? 0.0 : speed, high = 0.0;
	next.well = 0.0, next.stored = 0.0, next.helped = 0.0;
	if (p->kind == HEADER) {
		header(c, s, push, demand, p->lift + s->well, &next.value, &next.stored, &next.flow, &next.taken);
		next.well = s->well;
		if (p->drawdown > 0.0)
			next.well = larger(0.0, s->well + c->step * (next.flow - s->well / p->drawdown) / p->well_area);
	} else if (p->kind == FLOW) {
		next.value = next.flow = next.taken = pipeline(c, s, push, demand);
	} else if (p->kind == LEVEL) {
		pit(c, s, push, demand, &next.value, &next.stored, &next.flow, &next.taken, &high, &next.helped);
	} else if (p->kind == HEAT) {
		next.flow = next.taken = machine_flow(p, push, p->lift, s->running);
		double carries = p->exchange * next.flow / p->full_flow;
		double gained = demand * p->exchange * (p->nominal - p->stream);
		next.value = s->value + c->step * (gained - carries * (s->value - p->stream)) / (p->capacity + c->step * carries);
	} else if (p->kind == ROOM) {
		room(c, s, push, demand, &next.value, &next.flow, &next.taken);
		next.stored = p->elastic * next.value;
	} else
		next.value = next.flow = next.taken = machine_flow(p, push, p->lift, s->running);
	double power = shaft_power(p, larger(speed, rotor), next.flow, s->running);
	if (dry) power *= 0.3;
	next.dry_clock = 0.0;
	if (c->drive.dry_power > 0.0 && mode <= BOOSTING && speed >= 0.05) {
		double threshold = c->drive.dry_power * c->drive.rated_power * s->running;
		if (c->drive.dry_scaled > 0.0) threshold *= speed * speed * speed;
		if (power < threshold) {
			next.dry_clock = s->dry_clock + c->step;
			if (next.dry_clock >= c->drive.dry_delay) {
				int locks = s->trips >= c->drive.retries;
				mode = locks ? LOCKED : TRIPPED, *event = locks ? LOCKOUT : TRIP;
				next.clock = 0.0, next.dry_clock = 0.0, next.trips = s->trips + 1.0;
			}
		}
	}
	double top = mode == AWAKE && speed >= c->control.high && p->kind != OPEN ? 1.0 : 0.0;
	next.turn_clock = s->turn_clock + c->step;
	if (next.turn_clock >= c->set.turn) {
		next.turn_clock = 0.0, staging = TURN;
		next.lead = fmod(s->lead + 1.0, c->set.machines);
	}
	if (*event == NONE) *event = staging;
	if (*event == NONE && high > s->high) *event = HIGH;
	if (*event == NONE && limited > s->limited) *event = LIMITED;
	if (*event == NONE && top > s->top) *event = TOP;
	next.power = power, next.reading = reading, next.speed = speed, next.rotor = rotor, next.mode = mode;
	next.running = running, next.limited = limited, next.top = top, next.high = high;
	return next;
}

long run(const Config *c, long steps, const double *times, const double *demands, long told,
         const double *hand_times, const double *hands, long by_hand, const double *noise,
         long noises, const double *start, double *ring, long late_steps, long every, double *trace, long rows,
         double *events, long most, double *totals, double *hours) {
	State s = {0};
	s.value = start[0], s.speed = s.rotor = s.integral = start[1], s.running = start[2], s.well = start[3];
	s.stored = c->plant.kind == HEADER ? stored_at(&c->plant, s.value) : s.value * c->plant.area;
	s.mode = c->drive.fill_speed > 0.0 ? FILLING : AWAKE;
	s.flow = c->plant.kind == FLOW ? s.value : 0.0;
	s.measured = s.value, s.reading = smaller(larger(s.value, c->sensor.least), c->sensor.most);
	s.wanted = larger(1.0, floor(start[2]));
	for (long i = 0; i < late_steps; i++) ring[i] = start[0];
	long happened = 0, row = 0, k = 0, h = 0, late = 0, hiss = 0, until_row = 0;
	double highest = s.value, lowest = s.value, energy = 0, pumped = 0, taken = 0, starts = 0, awake = 0, at_top = 0,
		error = 0, movement = 0;
	for (long i = 0; i < steps; i++) {
		double t = i * c->step;
		while (k + 1 < told && times[k + 1] <= t) k++;
		while (h + 1 < by_hand && hand_times[h + 1] <= t) h++;
		State before = s;
		int event;
		s = advance(c, &before, demands[k], hands[h], noise[hiss], ring[late], t, &event);
		ring[late] = s.value;
		late = late + 1 < late_steps ? late + 1 : 0;
		hiss = hiss + 1 < noises ? hiss + 1 : 0;
		highest = larger(highest, s.value), lowest = smaller(lowest, s.value);
		energy += s.power * c->step, pumped += (s.flow + s.helped) * c->step, taken += s.taken * c->step;
		movement += fabs(s.speed - before.speed);
		if (s.speed > 0.0) {
			awake += c->step;
			if (c->set.machines <= 1.0) hours[0] += c->step;
			else for (int j = 0; j < (int)s.wanted; j++) hours[(int)(s.lead + j) % (int)c->set.machines] += c->step;
			if (before.speed == 0.0) starts += 1.0;
		}
		if (s.top > 0.0) at_top += c->step;
		if (s.mode == AWAKE) error += fabs(s.value - setpoint_at(c, t)) * c->step;
		if (event) {
			if (happened < most) events[2 * happened] = t + c->step, events[2 * happened + 1] = event;
			happened++;
		}
		if (until_row == 0 && row < rows) {
			double *to = trace + 7 * row++;
			until_row = every;
			to[0] = s.value, to[1] = s.speed == s.rotor ? s.speed : s.rotor, to[2] = s.flow + s.helped, to[3] = s.taken;
			to[4] = s.power, to[5] = s.running, to[6] = s.well;
		}
		until_row--;
	}
	double found[] = {highest, lowest, energy, pumped, taken, starts, awake, at_top, error, movement, s.stored};
	for (int i = 0; i < 11; i++) totals[i] = found[i];
	return happened;
}
